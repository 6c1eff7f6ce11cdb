import { Injectable, type OnDestroy, signal } from '@angular/core';
import type { CopyView } from '@inkwell-twin/api';
import type { Master, Step } from '@inkwell-twin/core/web';
import type { ImpactAnswer, ImpactRequest } from '../workers/impact.worker';

/** Live impact: asks a web worker, edit by edit, which copies the draft would outdate. */
@Injectable()
export class Impact implements OnDestroy {
  private readonly worker = new Worker(new URL('../workers/impact.worker', import.meta.url), { type: 'module' });
  readonly outdated = signal<ReadonlySet<string>>(new Set());
  /** The steps that the worker has. */
  private sent: readonly Step[] = [];

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<ImpactAnswer>) => this.outdated.set(new Set(data.outdated));
  }

  /** Another document, or another revision of it: the draft is told of again. */
  document(master: Master): void {
    this.sent = [];
    this.send({ kind: 'document', master });
  }

  copies(copies: readonly CopyView[]): void {
    this.send({
      kind: 'copies',
      copies: copies.map(({ id, target, options, scope, choices }) => ({ id, target, options, scope, choices })),
    });
  }

  /** The draft as it is now: only the steps that are new, or no more the same, cross over. */
  change(steps: readonly Step[]): void {
    let from = 0;
    while (from < steps.length && steps[from] === this.sent[from]) from++;
    if (from === steps.length && from === this.sent.length) return;
    this.sent = steps;
    this.send({ kind: 'steps', from, steps: steps.slice(from).map(({ forward }) => forward) });
  }

  private send(request: ImpactRequest): void {
    this.worker.postMessage(request);
  }

  ngOnDestroy(): void {
    this.worker.terminate();
  }
}

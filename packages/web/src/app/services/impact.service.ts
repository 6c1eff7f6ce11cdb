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
      copies: copies.map(({ id, target, options, scope, choices, row }) => ({ id, target, options, scope, choices, row })),
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

  /** What is to be told once the master is on the screen: a large document takes long to be handed over. */
  private waiting: ImpactRequest[] = [];

  private send(request: ImpactRequest): void {
    if (this.waiting.push(request) > 1) return;
    requestAnimationFrame(() =>
      setTimeout(() => {
        for (const one of this.waiting.splice(0)) this.worker.postMessage(one);
      }),
    );
  }

  ngOnDestroy(): void {
    this.worker.terminate();
  }
}

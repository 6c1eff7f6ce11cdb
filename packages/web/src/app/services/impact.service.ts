import { Injectable, type OnDestroy, signal } from '@angular/core';
import type { CopyView } from '@inkwell-twin/api';
import type { Master, Step } from '@inkwell-twin/core/web';
import type { ImpactAnswer, ImpactRequest } from '../workers/impact.worker';

/** Live impact: asks a web worker, edit by edit, which copies the draft would outdate. */
@Injectable()
export class Impact implements OnDestroy {
  private readonly worker = new Worker(new URL('../workers/impact.worker', import.meta.url), { type: 'module' });
  readonly outdated = signal<ReadonlySet<string>>(new Set());

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<ImpactAnswer>) => this.outdated.set(new Set(data.outdated));
  }

  load(master: Master, copies: readonly CopyView[]): void {
    this.send({
      kind: 'load',
      master,
      copies: copies.map(({ id, target, options, board }) => ({ id, target, options, board })),
    });
  }

  change(steps: readonly Step[]): void {
    this.send({ kind: 'change', steps: steps.map(({ forward }) => forward) });
  }

  private send(request: ImpactRequest): void {
    this.worker.postMessage(request);
  }

  ngOnDestroy(): void {
    this.worker.terminate();
  }
}

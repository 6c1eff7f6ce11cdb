import { Compute } from './compute';
import type { EngineSettings } from './engine';

/** Always the same thread for the same master: it keeps its drafts in memory. */
function threadFor(queueKey: string, count: number): number {
  let sum = 0;
  for (let i = 0; i < queueKey.length; i++) sum = (31 * sum + queueKey.charCodeAt(i)) | 0;
  return Math.abs(sum) % count;
}

/** Several threads of which each has masters of its own: what is heavy for one of them holds up a part of the others only. */
export class KeyedCompute {
  private readonly threads: readonly Compute[];

  constructor(settings: EngineSettings, count: number) {
    this.threads = Array.from({ length: count }, () => new Compute(settings, 1));
  }

  /** As of Compute. */
  readonly run: Compute['run'] = (task, input, turn) =>
    this.threads[threadFor(turn.queueKey, this.threads.length)]!.run(task, input, turn);

  async close(): Promise<void> {
    await Promise.all(this.threads.map((thread) => thread.close()));
  }
}

import { Compute } from './compute';
import type { EngineSettings } from './engine';

/** Always the same hand for the same master, which keeps its drafts in memory. */
function handFor(whose: string, hands: number): number {
  let sum = 0;
  for (let i = 0; i < whose.length; i++) sum = (31 * sum + whose.charCodeAt(i)) | 0;
  return Math.abs(sum) % hands;
}

/** Several threads of which each has masters of its own: what is heavy for one of them holds up a part of the others only. */
export class Hands {
  private readonly hands: readonly Compute[];

  constructor(settings: EngineSettings, count: number) {
    this.hands = Array.from({ length: count }, () => new Compute(settings, 1));
  }

  /** As of Compute. */
  readonly run: Compute['run'] = (task, input, turn) =>
    this.hands[handFor(turn.whose, this.hands.length)]!.run(task, input, turn);

  async close(): Promise<void> {
    await Promise.all(this.hands.map((hand) => hand.close()));
  }
}

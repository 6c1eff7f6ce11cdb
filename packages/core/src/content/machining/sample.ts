import type { Sketch } from '../../base/bytes/sketch';
import type { Machining } from '../../contracts/machining';

/** Steps of a place that are told apart, mm. */
const STEP = 0.02;

/** Moves by how far they go, wherever they are. */
export function sampleMachining({ count, motion, ends }: Machining, into: Sketch): void {
  for (let i = 1; i < count; i++) {
    const by = (axis: number) => Math.round((ends[3 * i + axis]! - ends[3 * i - 3 + axis]!) / STEP) || 0;
    if (motion[i]) into.add(motion[i]!, by(0), by(1), by(2));
  }
}

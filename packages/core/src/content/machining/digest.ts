import type { Hasher } from '../../base/bytes/hasher';
import type { Machining } from '../../contracts/machining';

/** Feeds come from files with few decimals, and from inches. */
const tenths = (value: number): number => (Number.isNaN(value) ? 1e15 : Math.round(value * 10) + 0);
const thousandths = (value: number): number => (Number.isNaN(value) ? 1e15 : Math.round(value * 1000) + 0);

/** What a machine does, to a thousandth: with which tools, how fast, where to, around what. */
export function digestMachining({ tools, count, motion, ends, centres, feed, spindle, tool }: Machining, into: Hasher): void {
  const numbers = new Float64Array(9 * count);
  for (let i = 0; i < count; i++)
    numbers.set(
      [
        motion[i]!,
        thousandths(ends[3 * i]!),
        thousandths(ends[3 * i + 1]!),
        thousandths(ends[3 * i + 2]!),
        thousandths(centres[2 * i]!),
        thousandths(centres[2 * i + 1]!),
        tenths(feed[i]!),
        thousandths(spindle[i]!),
        tools[tool[i]!]!.number,
      ],
      9 * i,
    );
  into.update(numbers);
}

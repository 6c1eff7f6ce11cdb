import type { Comparison } from '../../contracts/kind';
import type { Box } from '../../base/geometry/measure';
import { difference } from '../../contracts/difference';

/** The one factor by which the copy's box is larger than the master's, or undefined where there is none. */
function scaleBetween(a: Box, b: Box): number | undefined {
  const [aw, ah, bw, bh] = [a.maxX - a.minX, a.maxY - a.minY, b.maxX - b.minX, b.maxY - b.minY];
  if (!(aw > 0 && ah > 0 && bw > 0 && bh > 0)) return undefined;
  const ratio = Math.sqrt((bw / aw) * (bh / ah));
  return Math.abs(bw / aw / ratio - 1) < 0.01 && Math.abs(ratio - 1) > 0.005 ? ratio : undefined;
}

/**
 * A comparison in which nothing is where it should be, but everything would be at another scale: that is one difference, not
 * hundreds. Other comparisons come back as they are.
 * @param boxes of everything on either side
 * @param again compares once more with the copy scaled, and with a tolerance of its own
 */
export function orAtAnotherScale(
  plain: Comparison,
  tolerance: number,
  boxes: () => readonly [Box, Box],
  again: (factor: number, tolerance: number) => Comparison,
): Comparison {
  if (plain.equal > 0 || plain.differences.length < 2) return plain;
  const [a, b] = boxes();
  const ratio = scaleBetween(a, b);
  if (ratio === undefined) return plain;
  const scaled = again(1 / ratio, tolerance * Math.max(1, 1 / ratio));
  if (scaled.differences.length >= plain.differences.length) return plain;
  const whole = difference('unit changed', 'Everything', { amount: ratio, unit: '×', place: b });
  return { ...scaled, equal: 0, differences: [whole, ...scaled.differences] };
}

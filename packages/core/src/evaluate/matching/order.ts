import Flatbush from 'flatbush';
import { type Box, boxesOverlap } from '../../base/geometry/measure';
import type { Pair } from './pair';

/** Two things that are the same on both sides, with their places in the order and on the board. */
export interface Placing {
  readonly a: { readonly entry: number; readonly box: Box };
  readonly b: { readonly entry: number; readonly box: Box };
  /** Words for it, found only where they are needed. */
  readonly what: () => string;
  readonly source: string | null;
}

/** What is out of order: all outside the longest run that both sides have in the same order. */
export function outOfOrder<P extends Pick<Placing, 'a' | 'b'>>(pairs: readonly P[]): P[] {
  const sorted = [...pairs].sort((p, q) => p.a.entry - q.a.entry);
  if (sorted.every((pair, i) => i === 0 || sorted[i - 1]!.b.entry <= pair.b.entry)) return [];
  const tops: number[] = [];
  const before: number[] = [];
  sorted.forEach(({ b }, i) => {
    let low = 0;
    let high = tops.length;
    while (low < high) {
      const mid = (low + high) >> 1;
      if (sorted[tops[mid]!]!.b.entry <= b.entry) low = mid + 1;
      else high = mid;
    }
    before[i] = low ? tops[low - 1]! : -1;
    tops[low] = i;
  });
  const inOrder = new Set<number>();
  for (let i = tops.at(-1)!; i >= 0; i = before[i]!) inOrder.add(i);
  return sorted.filter((_, i) => !inOrder.has(i));
}

/**
 * Of what is out of order, all that now covers something it did not cover, or is covered.
 * @param shows whether it shows which of two comes first whose boxes overlap
 */
export function coveringOtherwise<P extends Pick<Placing, 'a' | 'b'>>(
  suspects: readonly P[],
  pairs: readonly P[],
  shows: (one: P, other: P) => boolean = () => true,
): P[] {
  if (!suspects.length) return [];
  const index = new Flatbush(pairs.length);
  for (const { a } of pairs) index.add(a.box.minX, a.box.minY, a.box.maxX, a.box.maxY);
  index.finish();
  return suspects.filter((one) => {
    const { minX, minY, maxX, maxY } = one.a.box;
    let found = false;
    // The search ends with the first that it finds: `filter` answers false for all after.
    index.search(minX, minY, maxX, maxY, (i) => {
      const other = pairs[i]!;
      found ||=
        other !== one &&
        boxesOverlap(one.a.box, other.a.box) &&
        (one.a.entry - other.a.entry) * (one.b.entry - other.b.entry) < 0 &&
        shows(one, other);
      return false;
    });
    return found;
  });
}

/** Whether boxes have more than an edge in common. */

/** Whether an outline runs the other way: an open one by its ends, a closed one by its winding. */
export function runsBackwards({ a, b }: Pair): boolean {
  if (a.closed) return Math.sign(winding(a.points)) !== Math.sign(winding(b.points));
  const n = b.points.length;
  const straight = Math.hypot(a.points[0]! - b.points[0]!, a.points[1]! - b.points[1]!);
  return Math.hypot(a.points[0]! - b.points[n - 2]!, a.points[1]! - b.points[n - 1]!) < straight;
}

/** Twice the signed area, anticlockwise positive. */
export function winding(points: readonly number[]): number {
  let twice = 0;
  for (let i = 2; i < points.length; i += 2) twice += points[i - 2]! * points[i + 1]! - points[i]! * points[i - 1]!;
  return twice;
}

import { deviation, vertexDeviation } from '../../base/geometry/deviation';
import { BoxGrid } from './box-grid';
import type { Piece } from './pieces';
import { drawnAsOften } from './visits';

export interface Pair {
  readonly a: Piece;
  readonly b: Piece;
}
interface Pairing {
  readonly pairs: Pair[];
  readonly onlyA: Piece[];
  readonly onlyB: Piece[];
}

/** Two lengths that outlines of one shape can have, drawn twice within a tolerance. */
export const likeLengths = (a: number, b: number, tolerance: number): boolean =>
  Math.abs(a - b) <= 4 * tolerance + 0.02 * Math.max(a, b);

/** Whether two lengths are near enough to look closer: a line that trembles within the tolerance is longer, but not twice as long. */
const mayBeAlike = (a: number, b: number, tolerance: number): boolean => Math.max(a, b) <= 1.5 * Math.min(a, b) + 4 * tolerance;

/** Whether a piece ends where it begins, as near as anything is looked at. */
const comesRound = ({ closed, points }: Piece, tolerance: number): boolean =>
  closed || Math.hypot(points[0]! - points.at(-2)!, points[1]! - points.at(-1)!) <= tolerance;

/** Whether two pieces are the same outline within the tolerance, wherever it starts and whichever way it runs. */
export function sameOutline(a: Piece, b: Piece, tolerance: number): boolean {
  if (vertexDeviation(a.points, b.points) <= tolerance) return true;
  if (comesRound(a, tolerance) !== comesRound(b, tolerance) || !mayBeAlike(a.length, b.length, tolerance)) return false;
  return deviation(a.points, b.points, tolerance) <= tolerance && drawnAsOften([a], [b], tolerance);
}

/**
 * Pairs equal outlines of two sides one to one: first those that also look the same, then the rest by place and shape alone.
 */
export function pairOutlines(as: readonly Piece[], bs: readonly Piece[], tolerance: number): Pairing {
  const grid = new BoxGrid(
    bs.map(({ box }) => box),
    tolerance,
  );
  const usedA = new Uint8Array(as.length);
  const usedB = new Uint8Array(bs.length);
  const pairs: Pair[] = [];
  for (const strict of [true, false])
    as.forEach((a, i) => {
      if (usedA[i]) return;
      const j = grid.take(a.box, (k) => (!strict || a.look === bs[k]!.look) && sameOutline(a, bs[k]!, tolerance));
      if (j < 0) return;
      usedA[i] = usedB[j] = 1;
      pairs.push({ a, b: bs[j]! });
    });
  return { pairs, onlyA: as.filter((_, i) => !usedA[i]), onlyB: bs.filter((_, j) => !usedB[j]) };
}

import Flatbush from 'flatbush';
import { distanceToSegment } from '../../base/geometry/point';
import type { Piece } from './pieces';

/** Most places that a group of outlines is looked at. */
const MOST_PLACES = 20_000;
/** A stretch that is drawn more often by less than this is a matter of where lines meet, in tolerances. */
export const SHORTEST = 4;

/** Some outlines, able to say how often they come past a place. */
class CoveredEdges {
  private readonly ends: number[] = [];
  /** Of each segment: whether the one after it goes on from its end. */
  private readonly goesOn: number[] = [];
  private readonly index: Flatbush;
  readonly length: number;

  constructor(readonly pieces: readonly Piece[]) {
    for (const { points, closed } of pieces) {
      const first = this.goesOn.length;
      for (let i = 2; i < points.length; i += 2) {
        this.ends.push(points[i - 2]!, points[i - 1]!, points[i]!, points[i + 1]!);
        this.goesOn.push(this.goesOn.length + 1);
      }
      if (this.goesOn.length > first) this.goesOn[this.goesOn.length - 1] = closed ? first : -1;
    }
    this.length = pieces.reduce((sum, { length }) => sum + length, 0);
    this.index = new Flatbush(Math.max(1, this.goesOn.length));
    for (let i = 0; i < this.goesOn.length; i++) {
      const [a, b, c, d] = [this.ends[4 * i]!, this.ends[4 * i + 1]!, this.ends[4 * i + 2]!, this.ends[4 * i + 3]!];
      this.index.add(Math.min(a, c), Math.min(b, d), Math.max(a, c), Math.max(b, d));
    }
    if (!this.goesOn.length) this.index.add(0, 0, 0, 0);
    this.index.finish();
  }

  /** How often they come within a distance of a place: what goes there and back comes twice. */
  visits(x: number, y: number, within: number): number {
    if (!this.goesOn.length) return 0;
    const near = new Set(
      this.index
        .search(x - within, y - within, x + within, y + within)
        .filter(
          (i) =>
            distanceToSegment(x, y, this.ends[4 * i]!, this.ends[4 * i + 1]!, this.ends[4 * i + 2]!, this.ends[4 * i + 3]!) <=
            within,
        ),
    );
    let visits = near.size;
    for (const i of near) {
      const next = this.goesOn[i]!;
      // Two segments are one visit where the point between them is near as well.
      if (next !== i && near.has(next) && Math.hypot(this.ends[4 * i + 2]! - x, this.ends[4 * i + 3]! - y) <= within) visits--;
    }
    // A round that is all within the distance is one visit, too.
    return Math.max(visits, near.size ? 1 : 0);
  }
}

/** The longest stretch, mm, along which some outlines come past clearly more often than others do. */
function longestExcess(of: CoveredEdges, than: CoveredEdges, tolerance: number): number {
  const step = Math.max(tolerance, of.length / MOST_PLACES);
  let [longest, stretch] = [0, 0];
  for (const { points } of of.pieces) {
    stretch = 0;
    for (let i = 2; i < points.length; i += 2) {
      const [ax, ay, bx, by] = [points[i - 2]!, points[i - 1]!, points[i]!, points[i + 1]!];
      const length = Math.hypot(bx - ax, by - ay);
      const places = Math.max(1, Math.ceil(length / step));
      for (let k = 0; k < places; k++) {
        const t = (k + 0.5) / places;
        const [x, y] = [ax + t * (bx - ax), ay + t * (by - ay)];
        // Held against a wider look at the other side, so that lines that only nearly lie on each other count for both.
        const more = of.visits(x, y, 1.5 * tolerance) > than.visits(x, y, 4 * tolerance);
        stretch = more ? stretch + length / places : 0;
        longest = Math.max(longest, stretch);
      }
    }
  }
  return longest;
}

/**
 * Whether one line runs along another from end to end, never back: each of its points is near the other, no further back than the
 * one before, and what the other passes in between is near it, too.
 */
function runsAlong(a: readonly number[], b: readonly number[], tolerance: number): boolean {
  const [n, m] = [a.length / 2, b.length / 2];
  if (n < 2 || m < 2 || Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!) > tolerance) return false;
  const near = (x: number, y: number, of: readonly number[], i: number): boolean =>
    distanceToSegment(x, y, of[2 * i]!, of[2 * i + 1]!, of[2 * i + 2]!, of[2 * i + 3]!) <= tolerance;
  /** How far along segment `j` of the second line a place is, mm. */
  const along = (x: number, y: number, j: number): number => {
    const [dx, dy] = [b[2 * j + 2]! - b[2 * j]!, b[2 * j + 3]! - b[2 * j + 1]!];
    const length = Math.hypot(dx, dy);
    return length ? Math.min(length, Math.max(0, ((x - b[2 * j]!) * dx + (y - b[2 * j + 1]!) * dy) / length)) : 0;
  };
  let [j, reached] = [0, 0];
  for (let i = 1; i < n; i++) {
    const [x, y] = [a[2 * i]!, a[2 * i + 1]!];
    while (!near(x, y, b, j) || along(x, y, j) < reached - 2 * tolerance) {
      if (j + 2 >= m || !near(b[2 * j + 2]!, b[2 * j + 3]!, a, i - 1)) return false;
      j++;
      reached = 0;
    }
    reached = Math.max(reached, along(x, y, j));
  }
  for (j++; j < m; j++) if (Math.hypot(b[2 * j]! - a[2 * n - 2]!, b[2 * j + 1]! - a[2 * n - 1]!) > tolerance) return false;
  return true;
}

/** The points of a line from its other end; of a closed one, from the point that is nearest to a place. */
function turned(points: readonly number[]): number[] {
  const found: number[] = [];
  for (let i = points.length - 2; i >= 0; i -= 2) found.push(points[i]!, points[i + 1]!);
  return found;
}
function begunAt(points: readonly number[], x: number, y: number): number[] {
  let [at, best] = [0, Infinity];
  for (let i = 0; i + 2 < points.length; i += 2) {
    const far = Math.hypot(points[i]! - x, points[i + 1]! - y);
    if (far < best) [at, best] = [i, far];
  }
  return [...points.slice(at, -2), ...points.slice(0, at), points[at]!, points[at + 1]!];
}

/** Whether two lines run along each other, whichever way and, where they are closed, wherever they begin. */
function alongEachOther(a: Piece, b: Piece, tolerance: number): boolean {
  const points = a.closed && b.closed ? begunAt(b.points, a.points[0]!, a.points[1]!) : b.points;
  const both = (one: readonly number[], other: readonly number[]) =>
    runsAlong(one, other, tolerance) && runsAlong(other, one, tolerance);
  return both(a.points, points) || both(a.points, turned(points));
}

/**
 * Whether every stretch of line is drawn as often on one side as on the other: a side cut twice, or a line that runs on over its
 * own beginning, is other work although it lies where it should. For outlines that are known to lie on each other.
 */
export function drawnAsOften(as: readonly Piece[], bs: readonly Piece[], tolerance: number): boolean {
  const lengthOf = (pieces: readonly Piece[]) => pieces.reduce((sum, { length }) => sum + length, 0);
  if (Math.abs(lengthOf(as) - lengthOf(bs)) <= SHORTEST * tolerance) return true;
  if (as.length === 1 && bs.length === 1 && alongEachOther(as[0]!, bs[0]!, tolerance)) return true;
  const [a, b] = [new CoveredEdges(as), new CoveredEdges(bs)];
  const most = SHORTEST * tolerance;
  return longestExcess(a, b, tolerance) <= most && longestExcess(b, a, tolerance) <= most;
}

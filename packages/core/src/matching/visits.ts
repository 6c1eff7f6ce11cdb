import Flatbush from 'flatbush';
import { distanceToSegment } from '../geometry/point';
import type { Piece } from './pieces';

/** Most places that a group of outlines is looked at. */
const MOST_PLACES = 20_000;
/** A stretch that is drawn more often by less than this is a matter of where lines meet, in tolerances. */
const SHORTEST = 4;

/** Some outlines, able to say how often they come past a place. */
class Drawn {
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
function longestExcess(of: Drawn, than: Drawn, tolerance: number): number {
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
 * Whether every stretch of line is drawn as often on one side as on the other: a side cut twice, or a line that runs on over its
 * own beginning, is other work although it lies where it should. For outlines that are known to lie on each other.
 */
export function drawnAsOften(as: readonly Piece[], bs: readonly Piece[], tolerance: number): boolean {
  const [a, b] = [new Drawn(as), new Drawn(bs)];
  if (Math.abs(a.length - b.length) <= SHORTEST * tolerance) return true;
  const most = SHORTEST * tolerance;
  return longestExcess(a, b, tolerance) <= most && longestExcess(b, a, tolerance) <= most;
}

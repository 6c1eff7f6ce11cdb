import Flatbush from 'flatbush';
import { type Point, distanceToSegment } from './point';

/** Finds the segment of some polylines that is nearest to a point. Few segments are searched through, many are indexed. */
class NearestSegment {
  private readonly index: Flatbush | undefined;
  readonly count: number;
  /** x1, y1, x2, y2 of each segment. */
  private readonly ends: number[] = [];

  constructor(polylines: readonly (readonly number[])[]) {
    for (const points of polylines) {
      if (points.length === 2) this.ends.push(points[0]!, points[1]!, points[0]!, points[1]!);
      for (let i = 2; i < points.length; i += 2) this.ends.push(points[i - 2]!, points[i - 1]!, points[i]!, points[i + 1]!);
    }
    this.count = this.ends.length / 4;
    if (this.count <= 24) return;
    this.index = new Flatbush(this.count);
    for (let i = 0; i < this.count; i++) {
      const [ax, ay, bx, by] = this.segment(i);
      this.index.add(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
    }
    this.index.finish();
  }

  segment(i: number): [number, number, number, number] {
    const e = this.ends;
    return [e[4 * i]!, e[4 * i + 1]!, e[4 * i + 2]!, e[4 * i + 3]!];
  }

  distance(i: number, x: number, y: number): number {
    return distanceToSegment(x, y, ...this.segment(i));
  }

  /** Whether any segment's box comes within a distance of a point: far cheaper to ask than which is nearest. */
  anyAround(x: number, y: number, within: number): boolean {
    if (!this.index) return true;
    return this.index.search(x - within, y - within, x + within, y + within).length > 0;
  }

  /** The distance to the nearest segment. @param guess about how far it is, mm: the better, the quicker */
  distanceFrom(x: number, y: number, guess: number): number {
    if (!this.index) return this.nearest(x, y).distance;
    for (let within = Math.max(guess, 1e-4), tries = 0; tries < 6; within *= 4, tries++) {
      let best = Infinity;
      for (const i of this.index.search(x - within, y - within, x + within, y + within))
        best = Math.min(best, this.distance(i, x, y));
      if (best <= within) return best;
    }
    return this.nearest(x, y).distance;
  }

  nearest(x: number, y: number): { at: number; distance: number } {
    let at = 0;
    let best = Infinity;
    const offer = (i: number) => {
      const d = this.distance(i, x, y);
      if (d < best) [at, best] = [i, d];
    };
    if (!this.index) for (let i = 0; i < this.count; i++) offer(i);
    else {
      // Boxes come in order of distance; the first one bounds the search, then every box within that bound is tried.
      for (const i of this.index.neighbors(x, y, 4)) offer(i);
      for (const i of this.index.search(x - best, y - best, x + best, y + best)) offer(i);
    }
    return { at, distance: best };
  }
}

/**
 * The one-sided Hausdorff distance to some polylines: how far the farthest point of another one is from them, mm.
 * Between two vertices the distance to one fixed segment is convex, so the smaller of the two end-nearest segments bounds it;
 * where that bound is above what is already known, the piece is halved.
 * @param precision the result is exact to this, mm
 * @returns a function of the polyline to measure and of `enough`: above it the result is only a lower bound, and below it only
 *   known to be below
 */
export function directedDeviationToAll(
  polylines: readonly (readonly number[])[],
  precision = 1e-3,
): (points: readonly number[], enough?: number) => number {
  const target = new NearestSegment(polylines);
  return (a, enough = Infinity) => {
    if (!a.length || !target.count) return a.length ? Infinity : 0;
    if (enough < Infinity && !target.anyAround(a[0]!, a[1]!, enough)) return Infinity;
    let worst = 0;
    type End = { x: number; y: number; at: number; distance: number };
    const end = (x: number, y: number): End => ({ x, y, ...target.nearest(x, y) });
    const walk = (p: End, q: End): void => {
      if (worst > enough || p.at === q.at) return;
      const overP = Math.max(p.distance, target.distance(p.at, q.x, q.y));
      const overQ = Math.max(q.distance, target.distance(q.at, p.x, p.y));
      const bound = Math.min(overP, overQ);
      // Where only a limit is asked about, what is certain to be within it need not be known more exactly.
      if (bound <= worst + precision || (enough < Infinity && bound <= enough) || Math.hypot(p.x - q.x, p.y - q.y) < precision)
        return;
      const middle = end((p.x + q.x) / 2, (p.y + q.y) / 2);
      worst = Math.max(worst, middle.distance);
      walk(p, middle);
      walk(middle, q);
    };
    let previous = end(a[0]!, a[1]!);
    worst = previous.distance;
    for (let i = 2; i < a.length && worst <= enough; i += 2) {
      const next = end(a[i]!, a[i + 1]!);
      worst = Math.max(worst, next.distance);
      walk(previous, next);
      previous = next;
    }
    return worst;
  };
}

/** A function that finds of a polyline the vertex that is farthest from some others, and how far that is, mm. */
export function farthestVertex(
  polylines: readonly (readonly number[])[],
): (points: readonly number[]) => { readonly distance: number; readonly at: Point } {
  const target = new NearestSegment(polylines);
  return (points) => {
    let [distance, at] = [-1, [0, 0] as Point];
    let found = 0.01;
    for (let i = 0; i < points.length; i += 2) {
      found = target.distanceFrom(points[i]!, points[i + 1]!, 2 * found);
      if (found > distance) [distance, at] = [found, [points[i]!, points[i + 1]!]];
    }
    return { distance, at };
  };
}

/** The one-sided Hausdorff distance between two polylines, mm. */
export const directedDeviation = (a: readonly number[], b: readonly number[], enough = Infinity): number =>
  directedDeviationToAll([b])(a, enough);

/** Two-sided Hausdorff distance between flat polylines, mm. Above `enough` the result is only a lower bound. */
export function deviation(a: readonly number[], b: readonly number[], enough = Infinity): number {
  const quick = vertexDeviation(a, b);
  if (quick <= 1e-9) return quick;
  const there = directedDeviation(a, b, enough);
  return there > enough ? there : Math.max(there, directedDeviation(b, a, enough));
}

/** Largest distance between equally numbered vertices: an upper bound of the deviation, Infinity where counts differ. */
export function vertexDeviation(a: readonly number[], b: readonly number[]): number {
  if (a.length !== b.length) return Infinity;
  let worst = 0;
  for (let i = 0; i < a.length; i += 2) {
    const d = Math.hypot(a[i]! - b[i]!, a[i + 1]! - b[i + 1]!);
    if (d > worst) worst = d;
  }
  return worst;
}

import { sweepOf } from './arcs';
import { arcThrough } from './fit-arcs';
import type { Arc, Segment } from './segments';
import { type Point, distance, distanceToSegment } from './point';

/** The largest circle that is worth an arc, mm; and the fewest points that show one. */
const [LARGEST, FEWEST] = [20_000, 5];
/** The longest arc, radians: one that is nearly a whole turn has hardly a chord to be found again by. */
const LONGEST = 1.4 * Math.PI;

/** Whether the points from one to another run along an arc: none farther off than so much, nor any chord between them. */
function isAlong(points: readonly Point[], from: number, to: number, arc: Arc, within: number): boolean {
  const start = points[from]!;
  const radius = distance(start, arc.centre);
  if (radius > LARGEST) return false;
  const sweep = sweepOf(start, arc);
  if (Math.abs(sweep) > LONGEST) return false;
  const [sx, sy] = [start[0] - arc.centre[0], start[1] - arc.centre[1]];
  let turned = 0;
  let [px, py] = [sx, sy];
  for (let i = from + 1; i <= to; i++) {
    const [x, y] = [points[i]![0] - arc.centre[0], points[i]![1] - arc.centre[1]];
    if (Math.abs(Math.sqrt(x * x + y * y) - radius) > within) return false;
    const step = Math.atan2(px * y - py * x, px * x + py * y);
    // Back along the circle, or a chord that stands off it.
    if (step * sweep < -1e-12 || radius * (1 - Math.cos(step / 2)) > within) return false;
    turned += step;
    [px, py] = [x, y];
  }
  return Math.abs(turned - sweep) < 1e-6;
}

function isStraight(points: readonly Point[], from: number, to: number, within: number): boolean {
  const [a, b] = [points[from]!, points[to]!];
  for (let i = from + 1; i < to; i++)
    if (distanceToSegment(points[i]![0], points[i]![1], a[0], a[1], b[0], b[1]) > within) return false;
  return true;
}

/** The farthest place up to which a test holds, at least `least`; it is tried in steps that double, and then halved. */
function farthest(least: number, last: number, holds: (to: number) => boolean): number {
  let [good, step] = [least, 1];
  while (good < last && holds(Math.min(last, good + step))) {
    good = Math.min(last, good + step);
    step *= 2;
  }
  let bad = Math.min(last + 1, good + step);
  while (bad - good > 1) {
    const middle = (good + bad) >> 1;
    if (holds(middle)) good = middle;
    else bad = middle;
  }
  return good;
}

/** The angle by which a chain turns at a point, radians, without its sign. */
function turnAt(points: readonly Point[], i: number): number {
  const [a, b, c] = [points[i - 1], points[i]!, points[i + 1]];
  if (!a || !c) return 0;
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
  return Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy));
}

/** Whether the edge that leads to a point is too long to be a chord of the curve that its ends turn by. */
const isEdge = (points: readonly Point[], i: number, within: number): boolean =>
  (distance(points[i - 1]!, points[i]!) * Math.max(turnAt(points, i - 1), turnAt(points, i))) / 8 > 1.5 * within;

/**
 * A chain of chords as the arcs and lines that it was made of, as few as lie near enough.
 * @param within largest distance between chords and pieces, mm; chords stand off their curves by less
 */
export function arcsOfPoints(points: readonly Point[], within: number): Segment[] {
  const segments: Segment[] = [];
  const last = points.length - 1;
  const arcTo = (from: number, to: number): Arc | undefined => arcThrough(points[from]!, points[(from + to) >> 1]!, points[to]!);
  for (let from = 0; from < last;) {
    // An arc ends where a long edge begins, and no later.
    let end = from + 1;
    const straight = isEdge(points, end, within);
    if (!straight) while (end < last && !isEdge(points, end + 1, within)) end++;
    const line = farthest(from + 1, straight ? last : end, (to) => isStraight(points, from, to, within));
    const holds = (to: number): boolean => {
      const arc = arcTo(from, to);
      return arc !== undefined && isAlong(points, from, to, arc, within);
    };
    const short = from + FEWEST - 1;
    let curve = from;
    if (!straight && short <= end) {
      if (holds(end)) curve = end;
      else if (holds(short)) curve = farthest(short, end, holds);
    }
    if (curve > line) segments.push(arcTo(from, curve)!);
    else segments.push({ kind: 'line', to: points[line]! });
    from = Math.max(line, curve);
  }
  return segments;
}

import { ClipType, Clipper, FillRule, type Paths64 } from 'clipper2-ts';
import { pointOnArc, sweepOf } from '../../base/geometry/arcs';
import { chordsOfArc, chordsOfCubic, pointOnCubic } from '../../base/geometry/flatten';
import { type Arc, type Cubic, type Outline, type Segment, withClosingLine } from '../../base/geometry/outline';
import { partSegment } from '../../base/geometry/nodes';
import { type Point, distance } from '../../base/geometry/point';

/** How outlines are combined: all of both, the first without the others, what all share, what is in just one. */
export const COMBINATIONS = {
  union: { clip: ClipType.Union, words: 'made one' },
  difference: { clip: ClipType.Difference, words: 'cut out of the lowest' },
  intersection: { clip: ClipType.Intersection, words: 'kept where all lie' },
  apart: { clip: ClipType.Xor, words: 'kept where just one lies' },
} as const;
export type Combination = keyof typeof COMBINATIONS;

/** A closed area: outlines and how they fill. */
export interface Area {
  readonly outlines: readonly Outline[];
  readonly rule: 'nonzero' | 'evenodd';
}

/** Steps of the whole numbers that are computed with, per mm; and how far chords may lie off their curves, mm. */
const [PER_MM, CHORD] = [1e5, 0.004];

/** A curve that was taken as chords, and the place of each of their ends on it, 0 to 1. */
interface Source {
  readonly from: Point;
  readonly segment: Arc | Cubic;
}
interface Mark {
  readonly source: Source;
  readonly t: number;
}

const key = (x: number, y: number): string => `${x},${y}`;
const whole = ([x, y]: Point): { x: number; y: number } => ({ x: Math.round(x * PER_MM), y: Math.round(y * PER_MM) });
const at = ({ from, segment }: Source, t: number): Point =>
  segment.kind === 'arc' ? pointOnArc(from, segment, t) : pointOnCubic(from, segment, t);

/** Outlines as closed chains of chords in whole numbers, and which of their points lie on which curves. */
class Chords {
  readonly marks = new Map<string, Mark[]>();

  paths({ outlines }: Area): Paths64 {
    return outlines.map((outline) => {
      const closed = withClosingLine({ ...outline, closed: true });
      const path = [whole(closed.start)];
      let from = closed.start;
      for (const segment of closed.segments) {
        if (segment.kind !== 'line') this.curve({ from, segment }, path);
        else path.push(whole(segment.to));
        from = segment.to;
      }
      return path;
    });
  }

  private curve(source: Source, path: { x: number; y: number }[]): void {
    const { from, segment } = source;
    const count =
      segment.kind === 'arc'
        ? Math.max(2, chordsOfArc(distance(from, segment.centre), sweepOf(from, segment), CHORD))
        : Math.max(2, chordsOfCubic(from, segment, CHORD));
    for (let i = 0; i <= count; i++) {
      const point = i === count ? whole(segment.to) : i === 0 ? whole(from) : whole(at(source, i / count));
      const name = key(point.x, point.y);
      const marks = this.marks.get(name);
      const mark = { source, t: i / count };
      if (marks) marks.push(mark);
      else this.marks.set(name, [mark]);
      if (i) path.push(point);
    }
  }
}

/** The place of a point on a curve, between two places that it lies between; null where it is not on it. */
function placeOn(source: Source, point: Point, near: number): number | null {
  const off = (t: number) => distance(at(source, Math.min(1, Math.max(0, t))), point);
  // Close to a place that is known: within two chords of it, narrowed by halves.
  let [low, high] = [Math.max(0, near - 0.51), Math.min(1, near + 0.51)];
  let best = near;
  for (let round = 0; round < 3; round++) {
    const step = (high - low) / 40;
    for (let t = low; t <= high + 1e-12; t += step || 1) if (off(t) < off(best)) best = Math.min(1, t);
    [low, high] = [Math.max(0, best - step), Math.min(1, best + step)];
  }
  for (let i = 0; i < 40; i++) {
    const [a, b] = [low + (high - low) / 3, high - (high - low) / 3];
    if (off(a) < off(b)) high = b;
    else low = a;
  }
  best = (low + high) / 2;
  return off(best) <= 2 * CHORD ? best : null;
}

/** The part of a curve between two places, in the direction from the first to the second. */
function part({ from, segment }: Source, a: number, b: number, to: Point): Segment {
  if (segment.kind === 'arc')
    return { kind: 'arc', to, centre: segment.centre, clockwise: b > a ? segment.clockwise : !segment.clockwise };
  const [low, high] = a < b ? [a, b] : [b, a];
  const [head] = high < 1 ? partSegment(from, segment, high) : [segment];
  const [, tail] = low > 0 ? partSegment(from, head, low / high) : [null, head];
  const { c1, c2 } = tail as Cubic;
  return a < b ? { kind: 'cubic', c1, c2, to } : { kind: 'cubic', c1: c2, c2: c1, to };
}

/** A ring of chords with the curves that they came from in their place. */
function withCurves(ring: readonly { x: number; y: number }[], marks: ReadonlyMap<string, readonly Mark[]>): Outline | null {
  const points = ring.map(({ x, y }): Point => [x / PER_MM, y / PER_MM]);
  const n = points.length;
  if (n < 3) return null;
  const marked = ring.map(({ x, y }) => marks.get(key(x, y)) ?? []);
  /** Which curve an edge lies on, and from where to where. */
  const edges = points.map((point, i) => {
    const next = (i + 1) % n;
    for (const { source, t } of [...marked[i]!, ...marked[next]!]) {
      const own = (k: number): number | null =>
        marked[k]!.find((mark) => mark.source === source && Math.abs(mark.t - t) <= 0.5 + 1e-9)?.t ??
        placeOn(source, points[k]!, t);
      const [a, b] = [own(i), own(next)];
      if (a === null || b === null || Math.abs(a - b) > 0.5 || a === b) continue;
      // The chord between them lies along the curve, not across it.
      const [middle, true_] = [
        [(point[0] + points[next]![0]) / 2, (point[1] + points[next]![1]) / 2] as Point,
        at(source, (a + b) / 2),
      ];
      if (distance(middle, true_) <= 2.5 * CHORD) return { source, a, b };
    }
    return null;
  });
  const goesOn = (i: number, j: number): boolean => {
    const [e, f] = [edges[i], edges[j]];
    return !!e && !!f && e.source === f.source && Math.abs(e.b - f.a) < 1e-6 && e.b > e.a === f.b > f.a;
  };
  // Begin where something ends, so that no curve is cut where the ring happens to start.
  let first = 0;
  while (first < n && goesOn((first - 1 + n) % n, first)) first++;
  if (first === n) first = 0;
  const segments: Segment[] = [];
  for (let step = 0; step < n;) {
    const i = (first + step) % n;
    let length = 1;
    while (step + length < n && goesOn((i + length - 1) % n, (i + length) % n)) length++;
    // A whole turn has no ends to be told by: it is two halves.
    if (length === n) length = Math.floor(n / 2);
    const to = points[(i + length) % n]!;
    const edge = edges[i];
    segments.push(edge ? part(edge.source, edge.a, edges[(i + length - 1) % n]!.b, to) : { kind: 'line', to });
    step += length;
  }
  return { start: points[first]!, segments, closed: true };
}

const even = (area: Area): FillRule => (area.rule === 'evenodd' ? FillRule.EvenOdd : FillRule.NonZero);

/**
 * Combines areas; open outlines are taken as closed. Curves stay curves: what comes out of the chords that are computed with goes back
 * to the arcs and cubics that they came from.
 * @param areas the lowest first
 * @returns outlines that fill by the even-odd rule; none where nothing is left
 */
export function combine(areas: readonly Area[], how: Combination): Outline[] {
  const chords = new Chords();
  // Each by its own rule first, so that they meet as plain areas.
  const plain = areas.map((area) => Clipper.booleanOp(ClipType.Union, chords.paths(area), null, even(area)));
  const [first, ...others] = plain;
  if (!first) return [];
  const { clip } = COMBINATIONS[how];
  const result = others.reduce((done, next) => Clipper.booleanOp(clip, done, next, FillRule.NonZero), first);
  return result.flatMap((ring) => {
    // Slivers that rounding leaves are nothing.
    if (Math.abs(Clipper.area(ring)) < 1e-4 * PER_MM * PER_MM) return [];
    return withCurves(ring, chords.marks) ?? [];
  });
}

import type { Outline, Segment } from '../../base/geometry/outline';
import { type Point, distance } from '../../base/geometry/point';
import { walk, wayOf } from './walk';

/** Turns below this need no swivelling, radians; the tip stays where it is to a hundredth of that times the blade. */
const STRAIGHT = 1e-3;

/** A closed way that goes on past its beginning by so much, so that its ends are cut through; open ones stay as they are. */
export function overcutBy(outline: Outline, by: number): Outline {
  if (!outline.closed) return outline;
  const way = wayOf(outline);
  if (!(way.length > 0)) return outline;
  const segments = [...walk(way, 0, way.length + Math.min(by, way.length))].map(({ segment }) => segment);
  return { start: way.points[0]!, segments, closed: false };
}

/** Where a segment heads, as a unit vector, at its beginning and at its end. */
function headingsOf(from: Point, segment: Segment): readonly [Point, Point] {
  if (segment.kind !== 'arc') {
    const far = distance(from, segment.to) || 1;
    const heading: Point = [(segment.to[0] - from[0]) / far, (segment.to[1] - from[1]) / far];
    return [heading, heading];
  }
  const turn = segment.clockwise ? -1 : 1;
  const radius = distance(from, segment.centre) || 1;
  const heading = ([x, y]: Point): Point => [
    (-turn * (y - segment.centre[1])) / radius,
    (turn * (x - segment.centre[0])) / radius,
  ];
  return [heading(from), heading(segment.to)];
}

/**
 * The way of the axis of a knife whose tip trails it: straight on ahead of the tip, in a wider circle along arcs, and around each
 * corner in a small arc while the tip stays in it.
 * @param outline of lines and arcs; what is closed becomes open
 * @param blade how far the tip is behind the axis, mm
 */
export function swivelled(outline: Outline, blade: number): Outline {
  const way = wayOf(outline);
  const ahead = ([x, y]: Point, [hx, hy]: Point): Point => [x + blade * hx, y + blade * hy];
  const segments: Segment[] = [];
  let start: Point | null = null;
  let before: Point | null = null;
  way.segments.forEach((segment, i) => {
    const from = way.points[i]!;
    const [out, end] = headingsOf(from, segment);
    if (before) {
      const turn = Math.atan2(before[0] * out[1] - before[1] * out[0], before[0] * out[0] + before[1] * out[1]);
      if (Math.abs(turn) > STRAIGHT) segments.push({ kind: 'arc', to: ahead(from, out), centre: from, clockwise: turn < 0 });
    } else start = ahead(from, out);
    segments.push({ ...segment, to: ahead(segment.to, end) } as Segment);
    before = end;
  });
  return { start: start ?? outline.start, segments, closed: false };
}

import { LINE, type Paths, outlineAt } from '../../base/geometry/paths';
import { arcToCubics, bulgeOf, pointOnArc, sweepOf } from '../../base/geometry/arcs';
import { type Cubic, type Outline, type Segment, withClosingLine } from '../../base/geometry/outline';
import type { LineFamily } from '../../content/drawing/line-families';
import type { BoxGradient } from '../../evaluate/gradients/gradient-box';
import { nearestColour } from '../../content/drawing/colour';
import { PALETTE, numberOfColour } from './colours';
import type { Point } from '../../base/geometry/point';

/** What the format calls the ways in which two colours run. */
export const GRADIENT_NAMES = { linear: 'LINEAR', radial: 'SPHERICAL' } as const;

/** Writes a group whose value is a number. */
type Value = (code: number, value: number) => void;

/** Bits of group 92 (DXF reference, HATCH): an outer loop, and one that is a polyline. */
const OUTER = 1;
const POLYLINE = 2;
const EDGE = { line: 1, spline: 4 } as const;

/**
 * The groups of a HATCH after its subclass: loops that are filled by odd parity.
 * @param by two colours across the box of what is filled, or lines, in the place of one colour
 */
export function hatchGroups(
  paths: Paths,
  first: number,
  end: number,
  by: BoxGradient | LineFamily | null,
  value: Value,
  text: (code: number, words: string) => void,
): void {
  const at = ([x, y]: Point, code = 10) => {
    value(code, x);
    value(code + 10, y);
  };
  at([0, 0]);
  for (const [code, number] of [
    [30, 0],
    [210, 0],
    [220, 0],
    [230, 1],
  ] as const)
    value(code, number);
  const lines = by !== null && 'dashes' in by ? by : null;
  text(2, lines ? 'LINES' : 'SOLID');
  for (const [code, number] of [
    [70, lines ? 0 : 1],
    [71, 0],
    [91, end - first],
  ] as const)
    value(code, number);
  for (let o = first; o < end; o++) {
    const outline = outlineAt(paths, o);
    if (outline.segments.some(({ kind }) => kind === 'cubic')) edges(outline, value, at);
    else corners(paths, o, outline, value, at);
    value(97, 0);
  }
  value(75, 0);
  value(76, lines ? 0 : 1);
  if (lines) lineGroups(lines, value);
  value(98, 1);
  at([0, 0]);
  if (by && !lines) gradientGroups(by as BoxGradient, value, text);
}

/** The lines of a hatch by pattern, as they lie (DXF reference, HATCH; pattern data): a gap is a dash of less than nothing. */
function lineGroups({ base, along, step, dashes }: LineFamily, value: Value): void {
  for (const [code, number] of [
    [52, 0],
    [41, 1],
    [77, 0],
    [78, 1],
    [53, ((Math.atan2(along[1], along[0]) * 180) / Math.PI + 360) % 360],
    [43, base[0]],
    [44, base[1]],
    [45, step[0]],
    [46, step[1]],
    [79, dashes.length],
  ] as const)
    value(code, number);
  dashes.forEach((one, i) => value(49, i % 2 ? -one : one));
}

/** What shades a hatch (DXF reference, HATCH; from version 2004). */
function gradientGroups({ kind, angle, colours }: BoxGradient, value: Value, text: (code: number, words: string) => void): void {
  for (const [code, number] of [
    [450, 1],
    [451, 0],
    [460, angle],
    [461, 0],
    [452, 0],
    [462, 0],
    [453, 2],
  ] as const)
    value(code, number);
  colours.forEach((colour, place) => {
    value(463, place);
    value(63, numberOfColour(nearestColour(colour, PALETTE)));
    value(421, parseInt(colour.slice(1), 16));
  });
  text(470, GRADIENT_NAMES[kind]);
}

/** A loop of lines and arcs: corners with bulges. */
function corners(
  { firstVerb, verbs }: Paths,
  o: number,
  { start, segments }: Outline,
  value: Value,
  at: (point: Point) => void,
): void {
  let bulged = false;
  for (let v = firstVerb[o]!; v < firstVerb[o + 1]!; v++) bulged ||= verbs[v] !== LINE;
  const list: { at: Point; bulge: number }[] = [];
  let from = start;
  for (const segment of segments) {
    if (segment.kind === 'arc' && Math.abs(sweepOf(from, segment)) > 1.9 * Math.PI) {
      // A bulge can't state a full turn: two halves can.
      const middle = pointOnArc(from, segment, 0.5);
      list.push({ at: from, bulge: bulgeOf(from, { ...segment, to: middle }) }, { at: middle, bulge: bulgeOf(middle, segment) });
    } else list.push({ at: from, bulge: segment.kind === 'arc' ? bulgeOf(from, segment) : 0 });
    from = segment.to;
  }
  if (Math.hypot(from[0] - start[0], from[1] - start[1]) > 1e-6) list.push({ at: from, bulge: 0 });
  for (const [code, number] of [
    [92, OUTER | POLYLINE],
    [72, bulged ? 1 : 0],
    [73, 1],
    [93, list.length],
  ] as const)
    value(code, number);
  for (const corner of list) {
    at(corner.at);
    if (bulged) value(42, corner.bulge);
  }
}

/** A loop with free curves: lines and splines one after the other. */
function edges(outline: Outline, value: Value, at: (point: Point, code?: number) => void): void {
  const { start, segments } = withClosingLine({ ...outline, closed: true });
  const all: Segment[] = [];
  let from = start;
  for (const segment of segments) {
    all.push(...(segment.kind === 'arc' ? arcToCubics(from, segment) : [segment]));
    from = segment.to;
  }
  value(92, OUTER);
  value(93, all.length);
  from = start;
  for (const segment of all) {
    if (segment.kind === 'line') {
      value(72, EDGE.line);
      at(from);
      at(segment.to, 11);
    } else spline(from, segment as Cubic, value, at);
    from = segment.to;
  }
}

/** A cubic as a spline of degree 3 whose knots are all at its ends. */
function spline(from: Point, { c1, c2, to }: Cubic, value: Value, at: (point: Point) => void): void {
  for (const [code, number] of [
    [72, EDGE.spline],
    [94, 3],
    [73, 0],
    [74, 0],
    [95, 8],
    [96, 4],
  ] as const)
    value(code, number);
  for (const knot of [0, 0, 0, 0, 1, 1, 1, 1]) value(40, knot);
  for (const point of [from, c1, c2, to]) at(point);
}

import { type Matrix, apply, multiply, rotation, scaling, translation } from './matrix';
import type { Arc, Cubic, Outline, Segment } from './segments';
import { type Point, distance, near } from './point';

const TURN = 2 * Math.PI;

/** The signed sweep of an arc in radians, anticlockwise positive. An arc that ends where it starts is a full turn. */
export function sweepOf(from: Point, arc: Arc): number {
  const start = Math.atan2(from[1] - arc.centre[1], from[0] - arc.centre[0]);
  const end = Math.atan2(arc.to[1] - arc.centre[1], arc.to[0] - arc.centre[0]);
  let sweep = arc.clockwise ? start - end : end - start;
  sweep = ((sweep % TURN) + TURN) % TURN;
  const radius = distance(from, arc.centre);
  if (sweep * radius < 1e-9 || (TURN - sweep) * radius < 1e-9) sweep = near(from, arc.to, 1e-6) ? TURN : sweep;
  return arc.clockwise ? -sweep : sweep;
}

/** A point of the arc at a share of its sweep. */
export function pointOnArc(from: Point, arc: Arc, share: number): Point {
  const angle = sweepOf(from, arc) * share;
  const [x, y] = [from[0] - arc.centre[0], from[1] - arc.centre[1]];
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return [arc.centre[0] + x * cos - y * sin, arc.centre[1] + x * sin + y * cos];
}

/** How far an arc lies off the cubics that stand for it at most, as a share of its radius. */
export const CUBICS_OFF = 4e-6;

/**
 * An arc as cubics of at most an eighth of a turn each; the radial error is below 4·10⁻⁶ of the radius
 * (Goldapp, "Approximation of circular arcs by cubic polynomials", CAGD 8, 1991).
 */
export function arcToCubics(from: Point, arc: Arc): Cubic[] {
  const sweep = sweepOf(from, arc);
  const count = Math.max(1, Math.ceil(Math.abs(sweep) / (Math.PI / 4) - 1e-9));
  const handle = (4 / 3) * Math.tan(sweep / count / 4);
  const cubics: Cubic[] = [];
  let at = from;
  for (let i = 1; i <= count; i++) {
    const to = i === count ? arc.to : pointOnArc(from, arc, i / count);
    const tangent = (p: Point): Point => [-(p[1] - arc.centre[1]) * handle, (p[0] - arc.centre[0]) * handle];
    const [s, e] = [tangent(at), tangent(to)];
    cubics.push({ kind: 'cubic', c1: [at[0] + s[0], at[1] + s[1]], c2: [to[0] - e[0], to[1] - e[1]], to });
    at = to;
  }
  return cubics;
}

/** A full circle as two half turns, anticlockwise from its right end. */
export function circleOutline(centre: Point, radius: number): Outline {
  const right: Point = [centre[0] + radius, centre[1]];
  const left: Point = [centre[0] - radius, centre[1]];
  return {
    start: right,
    segments: [
      { kind: 'arc', to: left, centre, clockwise: false },
      { kind: 'arc', to: right, centre, clockwise: false },
    ],
    closed: true,
  };
}

/** The centre and radius when an outline is one full circle within `within`, else undefined. */
export function asCircle(outline: Outline, within = 1e-6): { centre: Point; radius: number } | undefined {
  const first = outline.segments[0];
  if (!outline.closed || first?.kind !== 'arc') return undefined;
  const radius = distance(outline.start, first.centre);
  let from = outline.start;
  let sweep = 0;
  for (const segment of outline.segments) {
    if (segment.kind !== 'arc' || !near(segment.centre, first.centre, within)) return undefined;
    sweep += sweepOf(from, segment);
    from = segment.to;
  }
  return Math.abs(Math.abs(sweep) - TURN) < 1e-6 ? { centre: first.centre, radius } : undefined;
}

/**
 * An ellipse or a part of one, as arcs where it is a circle and as cubics otherwise.
 * @param frame maps the unit circle onto the ellipse
 * @param start first angle on the unit circle, radians
 * @param sweep signed extent in radians; a full turn gives a closed outline
 */
export function ellipseOutline(frame: Matrix, start = 0, sweep = TURN): Outline {
  const full = Math.abs(Math.abs(sweep) - TURN) < 1e-9;
  const at = (angle: number): Point => [Math.cos(angle), Math.sin(angle)];
  const segments: Segment[] = [];
  const parts = full ? 2 : 1;
  let from = at(start);
  const [a, b, c, d] = frame;
  const size = Math.max(Math.hypot(a, b), Math.hypot(c, d));
  const round = Math.abs(a * c + b * d) < 1e-9 * size * size && Math.abs(Math.hypot(a, b) - Math.hypot(c, d)) < 1e-9 * size;
  const mirrors = a * d - b * c < 0;
  for (let i = 1; i <= parts; i++) {
    const to = at(start + (sweep * i) / parts);
    const unit: Arc = { kind: 'arc', to, centre: [0, 0], clockwise: sweep < 0 };
    if (round)
      segments.push({
        kind: 'arc',
        to: apply(frame, to),
        centre: apply(frame, [0, 0]),
        clockwise: sweep < 0 !== mirrors,
      });
    else
      for (const cubic of arcToCubics(from, unit))
        segments.push({
          kind: 'cubic',
          to: apply(frame, cubic.to),
          c1: apply(frame, cubic.c1),
          c2: apply(frame, cubic.c2),
        });
    from = to;
  }
  return { start: apply(frame, at(start)), segments, closed: full };
}

/**
 * The segments of an elliptical arc given by its end points, after SVG 1.1, F.6.5 and F.6.6 (radii too small are grown).
 * The axes are those of the caller: y upwards here, so the caller mirrors flag and angle.
 */
export function endpointArc(
  from: Point,
  radii: Point,
  turn: number,
  large: boolean,
  anticlockwise: boolean,
  to: Point,
): Segment[] {
  let [rx, ry] = [Math.abs(radii[0]), Math.abs(radii[1])];
  if (near(from, to, 1e-12)) return [];
  if (rx < 1e-12 || ry < 1e-12) return [{ kind: 'line', to }];
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const [hx, hy] = [(from[0] - to[0]) / 2, (from[1] - to[1]) / 2];
  const [x, y] = [cos * hx + sin * hy, -sin * hx + cos * hy];
  const grow = (x / rx) ** 2 + (y / ry) ** 2;
  if (grow > 1) [rx, ry] = [rx * Math.sqrt(grow), ry * Math.sqrt(grow)];
  const under = Math.max(0, ((rx * ry) ** 2 - (rx * y) ** 2 - (ry * x) ** 2) / ((rx * y) ** 2 + (ry * x) ** 2));
  const root = (large === anticlockwise ? -1 : 1) * Math.sqrt(under);
  const [ux, uy] = [(root * rx * y) / ry, (-root * ry * x) / rx];
  const centre: Point = [cos * ux - sin * uy + (from[0] + to[0]) / 2, sin * ux + cos * uy + (from[1] + to[1]) / 2];
  if (Math.abs(rx - ry) < 1e-9 * rx) return [{ kind: 'arc', to, centre, clockwise: !anticlockwise }];
  const start = Math.atan2((y - uy) / ry, (x - ux) / rx);
  let sweep = Math.atan2((-y - uy) / ry, (-x - ux) / rx) - start;
  if (anticlockwise && sweep < 0) sweep += TURN;
  if (!anticlockwise && sweep > 0) sweep -= TURN;
  const frame = multiply(translation(...centre), multiply(rotation(turn), scaling(rx, ry)));
  const segments = [...ellipseOutline(frame, start, sweep).segments];
  const last = segments.at(-1);
  if (last) segments[segments.length - 1] = { ...last, to };
  return segments;
}

/** A DXF bulge (tangent of a quarter of the sweep) as a segment. */
export function bulgeSegment(from: Point, to: Point, bulge: number): Segment {
  if (Math.abs(bulge) < 1e-9 || near(from, to, 1e-12)) return { kind: 'line', to };
  const offset = (1 - bulge * bulge) / (4 * bulge);
  const centre: Point = [(from[0] + to[0]) / 2 - offset * (to[1] - from[1]), (from[1] + to[1]) / 2 + offset * (to[0] - from[0])];
  return { kind: 'arc', to, centre, clockwise: bulge < 0 };
}

/** The bulge of an arc: positive when anticlockwise. */
export const bulgeOf = (from: Point, arc: Arc): number => Math.tan(sweepOf(from, arc) / 4);

import { Clipper, EndType, FillRule, JoinType, ClipType, type Paths64 } from 'clipper2-ts';
import { arcsOfPoints } from '../../base/geometry/arcs-of-points';
import { flatten } from '../../base/geometry/flatten';
import { type Box, emptyBox, growBox } from '../../base/geometry/measure';
import { type Outline, withClosingLine } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';

/** Steps of the whole numbers that are computed with, per mm. */
const PER_MM = 1e5;
/** How far chords may lie off their curves, and arcs off the chords that they are found in, mm. */
const [CHORD, FOUND] = [0.0015, 0.0025];
/** Areas below this are what rounding leaves, mm². */
const NOTHING = 1e-4;

/** A closed chain of points, the last joined to the first. */
export type Ring = readonly Point[];

/** A closed outline as a ring of chords. */
export function ringOf(outline: Outline): Ring {
  const flat = flatten(withClosingLine({ ...outline, closed: true }), CHORD);
  const ring: Point[] = [];
  for (let i = 0; i + 3 < flat.length; i += 2) ring.push([flat[i]!, flat[i + 1]!]);
  return ring;
}

const whole = (rings: readonly Ring[]): Paths64 =>
  rings.map((ring) => ring.map(([x, y]) => ({ x: Math.round(x * PER_MM), y: Math.round(y * PER_MM) })));
const plain = (paths: Paths64): Ring[] =>
  paths.flatMap((path) =>
    Math.abs(Clipper.area(path)) < NOTHING * PER_MM * PER_MM ? [] : [path.map(({ x, y }): Point => [x / PER_MM, y / PER_MM])],
  );

/** Signed area of a ring, mm², anticlockwise positive. */
export function areaOfRing(ring: Ring): number {
  let twice = 0;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) twice += ring[j]![0] * ring[i]![1] - ring[i]![0] * ring[j]![1];
  return twice / 2;
}

/** The box of a ring, mm. */
export function boxOfRing(ring: Ring): Box {
  const box = emptyBox();
  for (const [x, y] of ring) growBox(box, x, y);
  return box;
}

/** Rings that cross themselves or each other as plain ones: holes run clockwise. */
export const united = (rings: readonly Ring[]): Ring[] =>
  plain(Clipper.booleanOp(ClipType.Union, whole(rings), null, FillRule.NonZero));

/** What of areas lies outside of others. */
export const without = (rings: readonly Ring[], others: readonly Ring[]): Ring[] =>
  plain(Clipper.booleanOp(ClipType.Difference, whole(rings), whole(others), FillRule.NonZero));

/** Areas grown by so much all round, corners as a round tool goes around them; shrunk where it is below 0. */
export const grown = (rings: readonly Ring[], by: number): Ring[] =>
  plain(Clipper.inflatePaths(whole(rings), by * PER_MM, JoinType.Round, EndType.Polygon, 2, CHORD * PER_MM));

/** A ring as an outline of arcs and lines, from its sharpest corner on, so that no arc is cut in two without need. */
export function outlineOfRing(ring: Ring): Outline {
  const count = ring.length;
  let [start, sharpest] = [0, -Infinity];
  for (let i = 0; i < count; i++) {
    const [a, b, c] = [ring[(i + count - 1) % count]!, ring[i]!, ring[(i + 1) % count]!];
    const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
    const turn = Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy));
    if (turn > sharpest + 1e-9) [start, sharpest] = [i, turn];
  }
  const points = [...ring.slice(start), ...ring.slice(0, start + 1)];
  return { start: points[0]!, segments: arcsOfPoints(points, FOUND), closed: true };
}

/** Of areas: what a round tool of that radius can't reach from inside. */
export const unreached = (rings: readonly Ring[], radius: number): Ring[] =>
  without(rings, grown(grown(grown(rings, -radius), radius), 2 * FOUND));

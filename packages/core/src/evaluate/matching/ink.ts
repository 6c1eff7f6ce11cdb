import { ClipType, Clipper, EndType, FillRule, JoinType, type Paths64 } from 'clipper2-ts';
import type { DisplayStyle } from '../../contracts/display-list';
import type { Box } from '../../base/geometry/measure';

/** Whole numbers per millimetre, as the polygon library wants them: a ten-thousandth of a tolerance of 0.01 mm. */
export const UNITS = 1e5;
/** A line without a width is drawn as thin as can be seen, mm. */
const HAIR = 0.1;

/** A polyline as that library has it. */
export const pathOf = (points: ArrayLike<number>): Paths64[number] =>
  Array.from({ length: points.length / 2 }, (_, i) => ({
    x: Math.round(points[2 * i]! * UNITS),
    y: Math.round(points[2 * i + 1]! * UNITS),
  }));

/** Where something lays ink on the sheet. */
export type Ink = Paths64;

/** How far the ink of a line goes beyond its middle at most, mm: corners stand out, as far as their limit lets them. */
export function reachOf({ stroke, strokeWidth, line }: DisplayStyle): number {
  if (!stroke) return 0;
  const stands = !line || line.join === 'miter' ? Math.max(1, line?.miterLimit ?? 4) : Math.SQRT2;
  // A pen that is not round is at most as much wider as its shape is long.
  const pen = line?.pen ? Math.max(...line.pen.map(Math.abs)) * 2 : 1;
  return (Math.max(strokeWidth, HAIR) / 2) * stands * pen;
}

const ENDS = { butt: EndType.Butt, round: EndType.Round, square: EndType.Square } as const;
const JOINS = { miter: JoinType.Miter, round: JoinType.Round, bevel: JoinType.Bevel } as const;

/**
 * What an entry inks: its filled area and that of its line, dashes taken as whole lines.
 * @returns null where it isn't worked out: lines of a pen that is not round
 */
export function inkOf(outlines: readonly (readonly number[])[], style: DisplayStyle): Ink | null {
  const { fill, stroke, fillRule, strokeWidth, line } = style;
  if (line?.pen) return null;
  const paths = outlines.map(pathOf);
  const area: Paths64 = [];
  if (fill) area.push(...Clipper.union(paths, fillRule === 'evenodd' ? FillRule.EvenOdd : FillRule.NonZero));
  if (stroke) {
    const by = (Math.max(strokeWidth, HAIR) / 2) * UNITS;
    const join = JOINS[line?.join ?? 'miter'];
    for (const path of paths) {
      const [first, last] = [path[0]!, path.at(-1)!];
      const closed = path.length > 2 && Math.abs(first.x - last.x) <= 1 && Math.abs(first.y - last.y) <= 1;
      const end = closed ? EndType.Joined : ENDS[line?.cap ?? 'butt'];
      area.push(...Clipper.inflatePaths([path], by, join, end, line?.miterLimit ?? 4));
    }
  }
  return Clipper.union(area, FillRule.NonZero);
}

/** The one plain colour of all that a style inks; null where it has several, or others. */
export function colourOf({ fill, stroke }: DisplayStyle): string | null {
  const [one, other] = [fill ?? stroke, stroke ?? fill];
  return typeof one === 'string' && one === other ? one : null;
}

/** Ink of words: their box, as if it were inked all over. */
export const inkOfBox = ({ minX, minY, maxX, maxY }: Box): Ink => [pathOf([minX, minY, maxX, minY, maxX, maxY, minX, maxY])];

/** Whether some ink lies on other ink, by more than a rim. @param tolerance mm */
export function liesOn(one: Ink, other: Ink, tolerance: number): boolean {
  const both = Clipper.booleanOp(ClipType.Intersection, one, other, FillRule.NonZero);
  if (!both.length) return false;
  // Where two only touch, rounding leaves slivers.
  return Clipper.inflatePaths(both, -Math.min(tolerance / 4, HAIR / 8) * UNITS, JoinType.Miter, EndType.Polygon).length > 0;
}

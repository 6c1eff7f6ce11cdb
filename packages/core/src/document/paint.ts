import * as z from 'zod';
import { type Matrix, meanScale, multiply, scaling } from '../base/geometry/matrix';
import type { Box } from '../base/geometry/measure';
import { Colour, Id, MatrixSchema, PointSchema, positive, share } from './schema-parts-base';

/** A colour at a place of a gradient. */
export const Stop = z.object({ offset: share, colour: Colour, opacity: share.optional() });
export type Stop = z.infer<typeof Stop>;

export const SPREADS = ['pad', 'reflect', 'repeat'] as const;

/**
 * Colours that run along a line or out from a centre. `at` maps the gradient's own plane to what it lies in: there a linear one
 * runs from 0 to 1 across, and a radial one from the focus (the centre, unless one is given) to the circle of radius 1.
 * `box`: that is the box of the object's outlines taken as a square of 1, so that it follows the object's size; `item`: it is
 * the object's own axes, mm.
 */
export const Gradient = z.object({
  kind: z.enum(['linear', 'radial']),
  within: z.enum(['box', 'item']),
  at: MatrixSchema,
  focus: PointSchema.optional(),
  /** What lies beyond the ends; `pad` where it is not said. */
  spread: z.enum(SPREADS).optional(),
  stops: z.array(Stop).min(1).max(256),
});
export type Gradient = z.infer<typeof Gradient>;

/**
 * A symbol repeated as a cell of so many mm across and up, without gaps, its lower left corner at the origin. `at` maps the
 * cell's plane to the object's own axes.
 */
export const Pattern = z.object({
  kind: z.literal('pattern'),
  symbol: Id,
  width: positive,
  height: positive,
  at: MatrixSchema,
});
export type Pattern = z.infer<typeof Pattern>;

export const Paint = z.union([Colour, Gradient, Pattern]);
export type Paint = z.infer<typeof Paint>;

/** A gradient as it lies on a board. */
export type PlacedGradient = Omit<Gradient, 'within'>;
/** A pattern as it lies on a board; its cell is found among the drawing's. */
export interface PlacedPattern {
  readonly kind: 'pattern';
  readonly cell: string;
  readonly width: number;
  readonly height: number;
  readonly at: Matrix;
}
/**
 * A picture as it lies on a board: `at` maps the square of 1 that is all of it to the board. `picture` is a word for what it
 * shows: in a master of the kept file and its corrections, in a drawing one found among the drawing's pictures.
 */
export interface PlacedPicture {
  readonly kind: 'picture';
  readonly picture: string;
  readonly at: Matrix;
}
export type CellOf = (symbol: string, scale: number) => string;
export type PlacedPaint = string | PlacedGradient | PlacedPattern | PlacedPicture;

type Any = string | { readonly kind: string } | null | undefined;
const kindOf = (paint: Any): string => (typeof paint === 'object' && paint !== null ? paint.kind : 'plain');
export const isPicture = <P extends Any>(paint: P): paint is Extract<P, { kind: 'picture' }> => kindOf(paint) === 'picture';
export const isPattern = <P extends Any>(paint: P): paint is Extract<P, { kind: 'pattern' }> => kindOf(paint) === 'pattern';
export const isGradient = <P extends Any>(paint: P): paint is Extract<P, { stops: unknown }> =>
  kindOf(paint) === 'linear' || kindOf(paint) === 'radial';
export const isPlain = <P extends Any>(paint: P): paint is Extract<P, string | null> => kindOf(paint) === 'plain';

/** From the square of 1 to a box. */
export const boxMatrix = ({ minX, minY, maxX, maxY }: Box): Matrix => [maxX - minX, 0, 0, maxY - minY, minX, minY];

/**
 * A paint as it lies where an object is.
 * @param matrix from the object's axes to those
 * @param box the box of the object in its own axes; only asked for where the paint follows it
 * @param cellOf finds the cell that a symbol is drawn as
 */
export function placedPaint(paint: Paint | null, matrix: Matrix, box: () => Box, cellOf: CellOf): PlacedPaint | null {
  if (isPattern(paint)) {
    const { symbol, width, height, at } = paint;
    const whole = multiply(matrix, at);
    const scale = meanScale(whole) || 1;
    const placed = multiply(whole, scaling(1 / scale));
    return { kind: 'pattern', cell: cellOf(symbol, scale), width: width * scale, height: height * scale, at: placed };
  }
  if (!isGradient(paint)) return paint;
  const { within, at, ...rest } = paint;
  return { ...rest, at: multiply(matrix, within === 'box' ? multiply(boxMatrix(box()), at) : at) };
}

import * as z from 'zod';
import { Colour, PointSchema, finite, share } from './schema-parts-base';

const between = (least: number, most: number) =>
  finite.refine((value) => value >= least && value <= most, `must be between ${least} and ${most}`);
/** Switched off where it says so. */
const base = { off: z.literal(true).optional() };

/** What is darkest and lightest becomes black and white; what lies between is bent by gamma. */
export const Levels = z.object({ kind: z.literal('levels'), ...base, black: share, white: share, gamma: between(0.1, 10) });
/** More or less light, in stops. */
export const Exposure = z.object({ kind: z.literal('exposure'), ...base, stops: between(-5, 5) });
/** −1 is flat grey, 1 is black and white only. */
export const Contrast = z.object({ kind: z.literal('contrast'), ...base, amount: between(-1, 1) });
/** 0 is grey, 1 as it came. */
export const Saturation = z.object({ kind: z.literal('saturation'), ...base, amount: between(0, 3) });
/** A colour of the picture that is to be neutral. */
export const WhitePoint = z.object({ kind: z.literal('white point'), ...base, colour: Colour });
/** Shades of one colour, from it to white. */
export const SingleInk = z.object({ kind: z.literal('single ink'), ...base, colour: Colour });
/** Radii are pixels of the whole picture. */
export const Sharpen = z.object({ kind: z.literal('sharpen'), ...base, radius: between(0.3, 50), amount: between(0, 5) });
export const Blur = z.object({ kind: z.literal('blur'), ...base, radius: between(0.3, 200) });
/** Degrees, anticlockwise; enlarged as much as it takes for no corner to be empty. */
export const Straighten = z.object({ kind: z.literal('straighten'), ...base, angle: between(-45, 45) });
/**
 * Makes a region see-through: what is near a colour, grown from points or wherever it is, or what lies outside an outline.
 * Places are shares of the picture across and up; `soft` is the width of its edge, pixels of the whole picture.
 */
export const CutOut = z.object({
  kind: z.literal('cut-out'),
  ...base,
  by: z.enum(['colour', 'outline']),
  colour: Colour,
  /** How far a colour may be, ΔE (CIE76). */
  distance: between(0, 150),
  /** Where the region grows from, or the corners of the outline; empty: wherever the colour is. */
  points: z.array(PointSchema).max(2000),
  soft: between(0, 100),
});

/** One correction of a picture. The order in which they stand is the order in which they act. */
export const Correction = z.discriminatedUnion('kind', [
  Levels,
  Exposure,
  Contrast,
  Saturation,
  WhitePoint,
  SingleInk,
  Sharpen,
  Blur,
  Straighten,
  CutOut,
]);
export type Correction = z.infer<typeof Correction>;
export type CorrectionKind = Correction['kind'];

/** The part of a picture that is shown, as shares of it from its lower left corner. */
export const Crop = z
  .object({ left: share, bottom: share, right: share, top: share })
  .refine(({ left, right, bottom, top }) => right > left && top > bottom, 'must leave something of the picture');
export type Crop = z.infer<typeof Crop>;

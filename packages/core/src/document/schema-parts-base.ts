import * as z from 'zod';

// What the schemas of nodes are made of: numbers, ids, colours, places.
/** Lengths, places and turns: once about the earth in mm is more than anybody draws, and more than formats and pictures hold. */
const FAR = 1e11;
export const finite = z
  .number()
  .refine((value) => Math.abs(value) <= FAR, 'must be a number, and no farther off than 100 000 km');
export const positive = finite.refine((value) => value > 0, 'must be above zero');
export const notNegative = finite.refine((value) => value >= 0, 'must not be negative');
export const Id = z.string().regex(/^[A-Za-z0-9][A-Za-z0-9_.:-]{0,79}$/, 'must be a short id of letters, digits and _ . : -');
export const Colour = z.string().regex(/^#[0-9a-f]{6}$/, 'must be a colour such as #2b4180');
export const PointSchema = z.tuple([finite, finite]).readonly();
export const MatrixSchema = z.tuple([finite, finite, finite, finite, finite, finite]).readonly();
/** A share of a whole. */
export const share = finite.refine((value) => value >= 0 && value <= 1, 'must be between 0 and 1');

import * as z from 'zod';
import { Id } from '../schema-parts-base';

/** A length in millimetres, an angle in degrees or a count: a number, or how it is computed of parameters. */
export const Amount = z.union([z.number().finite().min(-1e6).max(1e6), z.string().min(1).max(300)]);
export type Amount = z.infer<typeof Amount>;

/** What the value of a parameter is. Where nothing is said it is a plain number, which goes with any unit. */
export const PARAMETER_KINDS = ['length', 'angle', 'number', 'text', 'colour'] as const;
export type ParameterKind = (typeof PARAMETER_KINDS)[number];

/**
 * A value with a name, which others may be computed of. Lengths are mm, angles degrees. A text is what it says, `{name}` in it
 * filled in; a colour is one (`#2b4180`) or computed; the others are numbers or computed.
 */
export const Parameter = z.object({
  id: Id,
  name: z.string().min(1).max(200),
  value: z.union([Amount, z.literal('')]),
  measure: z.enum(PARAMETER_KINDS).optional(),
  note: z.string().max(500).optional(),
});
export type Parameter = z.infer<typeof Parameter>;

/** How attributes of a node are computed, by their names (`width`, `style.strokeWidth`). What stands in the attribute is its last value. */
export const Formulas = z
  .record(z.string().regex(/^[a-z][A-Za-z]*(\.[A-Za-z]+)?$/, 'must name an attribute'), z.string().min(1).max(300))
  .refine((formulas) => Object.keys(formulas).length <= 100, 'must be at most 100');
export type Formulas = z.infer<typeof Formulas>;

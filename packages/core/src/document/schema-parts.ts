import * as z from 'zod';
import { FONTS, type FontName } from './faces';
import { Paint } from './paint';
import { MACHINE_PROCESSES, SIDES, STITCHES, UNDERLAYS } from '../base/machines/processes';
import { Formulas } from './parameters/schema';
import { Colour, Id, MatrixSchema, PointSchema, finite, notNegative, positive, share } from './schema-parts-base';

export { Colour, Id, MatrixSchema, PointSchema, finite, notNegative, positive };

export { OutlineSchema, SegmentSchema } from './outline-schema';

export const CAPS = ['butt', 'round', 'square'] as const;
export const JOINS = ['miter', 'round', 'bevel'] as const;
/** How far a pointed corner may stand out, in line widths, where nothing else is said (SVG 1.1, 11.4). */
export const MITER_LIMIT = 4;

/** How an object looks. Colours are sRGB; widths are mm. */
export const Style = z.object({
  fill: Paint.nullable(),
  fillRule: z.enum(['nonzero', 'evenodd']).optional(),
  fillOpacity: share.optional(),
  stroke: Paint.nullable(),
  strokeWidth: notNegative,
  strokeOpacity: share.optional(),
  /** Lengths of dashes and of the gaps between them by turns, mm; none where it is not there. */
  dash: z.array(notNegative).max(64).optional(),
  /** Where in its dashes a line begins, mm. */
  dashOffset: finite.optional(),
  cap: z.enum(CAPS).optional(),
  join: z.enum(JOINS).optional(),
  miterLimit: finite.refine((value) => value >= 1, 'must be at least 1').optional(),
  /** The shape of a pen that is not round (geometry/pen). */
  pen: z.tuple([positive, finite, positive]).readonly().optional(),
  /** Of the object as a whole. */
  opacity: share.optional(),
});
export type Style = z.infer<typeof Style>;

export { FONTS, type FontName };

/** How a machine works an outline, where its profile alone does not say; what is absent is left to that. */
export const Work = z.strictObject({
  /** Of an object: something else than its layer says. */
  process: z.enum(MACHINE_PROCESSES).optional(),
  /** The number of a tool. */
  tool: z.number().int().min(1).max(99).optional(),
  side: z.enum(SIDES).optional(),
  /** How deep, mm. */
  depth: positive.refine((value) => value <= 1000, 'must be at most 1,000 mm').optional(),
  /** Bridges that hold a part in its sheet. */
  tabs: z.number().int().min(0).max(20).optional(),
  /** How it is sewn; what is absent is left to its look and to the copy. Lengths mm, `angle` of the rows of an area in degrees. */
  stitch: z
    .strictObject({
      as: z.enum(STITCHES).optional(),
      length: z.number().min(0.5).max(12).optional(),
      density: z.number().min(0.2).max(5).optional(),
      angle: z.number().min(-360).max(360).optional(),
      pull: z.number().min(0).max(2).optional(),
      under: z.enum(UNDERLAYS).optional(),
    })
    .optional(),
});
export type Work = z.infer<typeof Work>;

/** What every item has. */
export const itemBase = {
  id: Id,
  name: z.string().max(200).optional(),
  /** null: the layer of what holds the object (its group, or the symbol use). */
  layer: Id.nullable(),
  transform: MatrixSchema.optional(),
  formulas: Formulas.optional(),
};
/** What every item has that is drawn by itself. */
export const drawnBase = { ...itemBase, style: Style, work: Work.optional() };

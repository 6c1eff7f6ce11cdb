import * as z from 'zod';

// What the schemas of nodes are made of.
export const finite = z.number().refine(Number.isFinite, 'must be a finite number');
export const positive = finite.refine((value) => value > 0, 'must be above zero');
export const notNegative = finite.refine((value) => value >= 0, 'must not be negative');
export const Id = z.string().regex(/^[A-Za-z0-9][A-Za-z0-9_.:-]{0,79}$/, 'must be a short id of letters, digits and _ . : -');
export const Colour = z.string().regex(/^#[0-9a-f]{6}$/, 'must be a colour such as #2b4180');
export const PointSchema = z.tuple([finite, finite]).readonly();
export const MatrixSchema = z.tuple([finite, finite, finite, finite, finite, finite]).readonly();

export const SegmentSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('line'), to: PointSchema }),
  z.object({ kind: z.literal('arc'), to: PointSchema, centre: PointSchema, clockwise: z.boolean() }),
  z.object({ kind: z.literal('cubic'), to: PointSchema, c1: PointSchema, c2: PointSchema }),
]);
export const OutlineSchema = z.object({ start: PointSchema, segments: z.array(SegmentSchema), closed: z.boolean() });

/** How an object looks. Colours are sRGB; widths are mm. */
export const Style = z.object({
  fill: Colour.nullable(),
  fillRule: z.enum(['nonzero', 'evenodd']).optional(),
  stroke: Colour.nullable(),
  strokeWidth: notNegative,
  opacity: finite.refine((share) => share >= 0 && share <= 1, 'must be between 0 and 1').optional(),
});
export type Style = z.infer<typeof Style>;

export const FONTS = ['Commissioner', 'Commissioner Bold', 'Spline Sans Mono'] as const;
export type FontName = (typeof FONTS)[number];

/** What every item has. */
export const itemBase = {
  id: Id,
  name: z.string().max(200).optional(),
  /** null: the layer of what holds the object (its group, or the symbol use). */
  layer: Id.nullable(),
  transform: MatrixSchema.optional(),
};
/** What every item has that is drawn by itself. */
export const drawnBase = { ...itemBase, style: Style };

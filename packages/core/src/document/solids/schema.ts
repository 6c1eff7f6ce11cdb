import * as z from 'zod';
import { Amount, Parameter } from '../parameters/schema';
import { Colour, Id } from '../schema-parts-base';

export { Amount, Parameter };

const name = z.string().min(1).max(200);

export const AXES = ['x', 'y', 'z'] as const;
export type Axis = (typeof AXES)[number];
/** A plane by the two axes that lie in it: its right and its up. */
export const PLANES = ['xy', 'xz', 'yz'] as const;
export type PlaneName = (typeof PLANES)[number];
/** How what a feature makes meets what was there before. */
export const JOINING = ['add', 'cut', 'common'] as const;
export type Joining = (typeof JOINING)[number];

const Spot = z.tuple([Amount, Amount, Amount]);
const at = { x: Amount, y: Amount };

/** A closed outline in a plane: stated here, or that of an object on a board. */
export const SolidOutline = z.discriminatedUnion('shape', [
  z.object({ shape: z.literal('rectangle'), ...at, width: Amount, height: Amount, corner: Amount.optional() }),
  z.object({ shape: z.literal('circle'), ...at, diameter: Amount }),
  /** Equal sides about a middle. `across` is measured over two flats. */
  z.object({ shape: z.literal('regular'), ...at, sides: Amount, across: Amount }),
  z.object({
    shape: z.literal('points'),
    points: z
      .array(z.tuple([Amount, Amount]))
      .min(3)
      .max(1000),
  }),
  /** All closed outlines of an object on a board; what lies inside another is a hole in it. */
  z.object({ shape: z.literal('object'), object: Id, ...at }),
]);
export type SolidOutline = z.infer<typeof SolidOutline>;

/** Which edges are meant: those that fit all that is said. */
export const EdgeRule = z.object({
  /** Straight ones that run along an axis. */
  along: z.enum(AXES).optional(),
  /** Those that lie in the plane where an axis has this value. */
  on: z.object({ axis: z.enum(AXES), value: Amount }).optional(),
  /** Circles and arcs, or straight ones. */
  form: z.enum(['round', 'straight']).optional(),
  /** The one that is nearest to a place. */
  near: Spot.optional(),
});
export type EdgeRule = z.infer<typeof EdgeRule>;

const own = { id: Id, name };
const Edges = z.array(EdgeRule).min(1).max(200);

/** One step in which a solid is made. */
export const Feature = z.discriminatedUnion('op', [
  z.object({
    ...own,
    op: z.literal('extrude'),
    plane: z.enum(PLANES),
    /** How far from the origin the plane is. */
    offset: Amount,
    outline: SolidOutline,
    by: Amount,
    join: z.enum(JOINING),
  }),
  /** Turned about the up of its plane, through the origin. */
  z.object({
    ...own,
    op: z.literal('revolve'),
    plane: z.enum(PLANES),
    outline: SolidOutline,
    angle: Amount,
    join: z.enum(JOINING),
  }),
  /** Drilled along an axis from a place, against it; through everything where no depth is said. */
  z.object({
    ...own,
    op: z.literal('hole'),
    axis: z.enum(AXES),
    at: Spot,
    diameter: Amount,
    depth: Amount.optional(),
    /** A cone at its mouth for the head of a screw: its largest diameter and the angle between its sides. */
    sink: z.object({ diameter: Amount, angle: Amount }).optional(),
  }),
  /** What an earlier feature made, again and again in steps along a line; its first place counts. */
  z.object({ ...own, op: z.literal('row'), of: Id, count: Amount, step: Spot }),
  /** What an earlier feature made, again and again about an axis; its first place counts. */
  z.object({ ...own, op: z.literal('ring'), of: Id, count: Amount, axis: z.enum(AXES), centre: Spot, angle: Amount }),
  z.object({ ...own, op: z.literal('fillet'), edges: Edges, radius: Amount }),
  z.object({ ...own, op: z.literal('chamfer'), edges: Edges, distance: Amount }),
  /** What stands in a file that was brought in: one of the solids in it. */
  z.object({
    ...own,
    op: z.literal('file'),
    resource: Id,
    // eslint-disable-next-line no-restricted-syntax -- how the native file names where a solid came from
    format: z.enum(['step', 'triangles']),
    part: z.number().int().min(0).max(10_000),
  }),
]);
export type Feature = z.infer<typeof Feature>;
export type FeatureOp = Feature['op'];
export const FEATURE_OPS = Feature.options.map((one) => one.shape.op.value) as readonly FeatureOp[];

export const [MOST_FEATURES, MOST_SOLIDS] = [1000, 1000];

/** A body, mm, made feature by feature. */
export const Solid = z.object({
  id: Id,
  name,
  colour: Colour.optional(),
  parameters: z.array(Parameter).max(500),
  features: z.array(Feature).max(MOST_FEATURES),
});
export type Solid = z.infer<typeof Solid>;

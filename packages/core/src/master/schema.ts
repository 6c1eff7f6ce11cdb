import * as z from 'zod';

/** The native version that this schema describes (docs/native-format.md). */
export const NATIVE_VERSION = 3;

const finite = z.number().refine(Number.isFinite, 'must be a finite number');
const positive = finite.refine((value) => value > 0, 'must be above zero');
export const Id = z.string().regex(/^[A-Za-z0-9][A-Za-z0-9_.:-]{0,79}$/, 'must be a short id of letters, digits and _ . : -');
export const Colour = z.string().regex(/^#[0-9a-f]{6}$/, 'must be a colour such as #2b4180');
const PointSchema = z.tuple([finite, finite]).readonly();
const MatrixSchema = z.tuple([finite, finite, finite, finite, finite, finite]).readonly();

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
  strokeWidth: finite.refine((width) => width >= 0, 'must not be negative'),
  opacity: finite.refine((share) => share >= 0 && share <= 1, 'must be between 0 and 1').optional(),
});
export type Style = z.infer<typeof Style>;

export const FONTS = ['Commissioner', 'Commissioner Bold', 'Spline Sans Mono'] as const;
export type FontName = (typeof FONTS)[number];

const base = {
  id: Id,
  name: z.string().max(200).optional(),
  /** null: the layer of what holds the object (its group, or the symbol use). */
  layer: Id.nullable(),
  transform: MatrixSchema.optional(),
};
const drawn = { ...base, style: Style };

export const PathItem = z.object({ kind: z.literal('path'), ...drawn, outlines: z.array(OutlineSchema) });
export const RectangleItem = z.object({
  kind: z.literal('rectangle'),
  ...drawn,
  x: finite,
  y: finite,
  width: positive,
  height: positive,
  radius: finite.refine((radius) => radius >= 0, 'must not be negative'),
});
export const EllipseItem = z.object({
  kind: z.literal('ellipse'),
  ...drawn,
  cx: finite,
  cy: finite,
  rx: positive,
  ry: positive,
});
export const PolylineItem = z.object({
  kind: z.literal('polyline'),
  ...drawn,
  points: z.array(PointSchema).min(1),
  closed: z.boolean(),
});
export const TextItem = z.object({
  kind: z.literal('text'),
  ...drawn,
  text: z.string().max(20_000),
  x: finite,
  y: finite,
  /** Height of the em square, mm. */
  size: positive,
  font: z.enum(FONTS),
  align: z.enum(['start', 'middle', 'end']),
});
export const UseItem = z.object({ kind: z.literal('use'), ...base, symbol: Id });
export interface GroupItem {
  kind: 'group';
  id: string;
  name?: string | undefined;
  layer: string | null;
  transform?: z.infer<typeof MatrixSchema> | undefined;
  opacity?: number | undefined;
  items: Item[];
}
export const GroupItem = z.object({
  kind: z.literal('group'),
  ...base,
  opacity: finite.optional(),
  get items(): z.ZodType<Item[]> {
    return z.array(Item);
  },
});
export const Item: z.ZodType<Item> = z.discriminatedUnion('kind', [
  PathItem,
  RectangleItem,
  EllipseItem,
  PolylineItem,
  TextItem,
  UseItem,
  GroupItem,
]);
/** The schema of each kind of item. */
export const ITEM_SCHEMAS = {
  path: PathItem,
  rectangle: RectangleItem,
  ellipse: EllipseItem,
  polyline: PolylineItem,
  text: TextItem,
  use: UseItem,
  group: GroupItem,
} as const;
export type PathItem = z.infer<typeof PathItem>;
export type TextItem = z.infer<typeof TextItem>;
export type UseItem = z.infer<typeof UseItem>;
export type DrawnItem =
  PathItem | z.infer<typeof RectangleItem> | z.infer<typeof EllipseItem> | z.infer<typeof PolylineItem> | TextItem;
export type Item = DrawnItem | UseItem | GroupItem;

export const PROCESSES = ['print', 'cut', 'score', 'engrave', 'route', 'stitch', 'note'] as const;
export type Process = (typeof PROCESSES)[number];

export const Layer = z.object({
  id: Id,
  name: z.string().min(1).max(200),
  colour: Colour,
  visible: z.boolean(),
  locked: z.boolean(),
  process: z.enum(PROCESSES),
});
export type Layer = z.infer<typeof Layer>;

export const SymbolDefinition = z.object({
  id: Id,
  name: z.string().min(1).max(200),
  anchor: PointSchema,
  items: z.array(Item),
});
export type SymbolDefinition = z.infer<typeof SymbolDefinition>;

/** One flat sheet, mm, origin lower left, y upwards. */
export const Board = z.object({
  id: Id,
  name: z.string().min(1).max(200),
  width: positive,
  height: positive,
  background: Colour.nullable(),
  items: z.array(Item),
});
export type Board = z.infer<typeof Board>;

/** A file that came from outside and is kept byte for byte. */
export const Resource = z.object({
  id: Id,
  name: z.string().max(300),
  mediaType: z.string().max(100),
  size: z.number().int().nonnegative(),
  role: z.enum(['original', 'picture']),
});
export type Resource = z.infer<typeof Resource>;

export const Master = z.object({
  id: Id,
  title: z.string().min(1).max(200),
  owner: z.string().max(200),
  purpose: z.string().max(100),
  unit: z.enum(['mm', 'cm', 'in', 'pt']),
  layers: z.array(Layer).min(1),
  symbols: z.array(SymbolDefinition),
  boards: z.array(Board).min(1),
  resources: z.array(Resource),
  description: z.string().max(5000),
});
export type Master = z.infer<typeof Master>;
export type Node = Master | Board | Layer | SymbolDefinition | Resource | Item;

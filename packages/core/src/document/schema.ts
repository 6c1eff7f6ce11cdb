import { PROFILES } from './picture-encoding';
import * as z from 'zod';
import type { ChartFrame } from './items/kinds/chart-frame';
import type { EllipseItem } from './items/kinds/ellipse';
import type { GroupItem } from './items/kinds/group';
import type { PathItem } from './items/kinds/path';
import type { PictureItem } from './items/kinds/picture';
import type { PolylineItem } from './items/kinds/polyline';
import type { RectangleItem } from './items/kinds/rectangle';
import type { SolidView } from './items/kinds/solid-view';
import type { Item as AnyItem } from './items/union';
import { anyItem } from './items/table';
import type { TableFrame } from './items/kinds/table-frame';
import type { TextItem } from './items/kinds/text';
import type { Dimension } from './items/kinds/dimension';
import type { MotifLine } from './items/kinds/motif-line';
import type { TextFrame } from './items/kinds/text-frame';
import type { UseItem } from './items/kinds/use';
import { countParts } from './lists';
import { Resource } from './resource-schema';
import { Formulas, Parameter } from './parameters/schema';
import { Colour, Id, PointSchema, Work, finite, positive } from './schema-parts';
import { MACHINE_PROCESSES } from '../base/machines/processes';
import { Feature, MOST_SOLIDS, Solid } from './solids/schema';
import { Column, Row, Summary, Table } from './tables/schema';
import { Block, MOST_TEXTS, Prose } from './texts/schema';
import './items';

/** The native version that this schema describes (docs/native-format.md). */
export const NATIVE_VERSION = 3;

export {
  CAPS,
  Colour,
  FONTS,
  type FontName,
  Id,
  JOINS,
  MITER_LIMIT,
  OutlineSchema,
  SegmentSchema,
  Style,
  Work,
} from './schema-parts';
export type { GroupItem, PathItem, PictureItem, TextItem, UseItem };

/** An item that is drawn by itself. */
export type DrawnItem = PathItem | RectangleItem | EllipseItem | PolylineItem | TextItem | PictureItem;
/** An item that shows another part of its master. */
export type PlacedItem = TextFrame | TableFrame | ChartFrame | SolidView;
/** An item that draws by a rule: drawn/ says what. */
export type RuledItem = MotifLine | Dimension;
export type Item = AnyItem;
/** Any item. The kinds that there are stand in `kinds/`. */
export const Item: z.ZodType<Item> = z.lazy(() => anyItem());

export const PROCESSES = ['print', ...MACHINE_PROCESSES, 'note'] as const;
export type Process = (typeof PROCESSES)[number];

export const Layer = z.object({
  id: Id,
  name: z.string().min(1).max(200),
  colour: Colour,
  visible: z.boolean(),
  locked: z.boolean(),
  process: z.enum(PROCESSES),
  /** How a machine works what is on it. */
  work: Work.optional(),
});
export type Layer = z.infer<typeof Layer>;

export const SymbolDefinition = z.object({
  id: Id,
  name: z.string().min(1).max(200),
  anchor: PointSchema,
  items: z.array(Item),
});
export type SymbolDefinition = z.infer<typeof SymbolDefinition>;

/** A board may be as large as a town: 100 km. */
const side = positive.refine((value) => value <= 1e8, 'must be at most 100 km');

/** One flat sheet, mm, origin lower left, y upwards. */
export const Board = z.object({
  id: Id,
  name: z.string().min(1).max(200),
  width: side,
  height: side,
  background: Colour.nullable(),
  formulas: Formulas.optional(),
  /** Lines to lay things along, across or up the board: how far from its left or its foot, mm. */
  guides: z
    .array(z.object({ axis: z.enum(['x', 'y']), at: finite }))
    .max(500)
    .optional(),
  /** The distance of the lines of a grid to lay things on, mm; none where it is not there. */
  gridStep: positive.refine((value) => value >= 0.1, 'must be at least 0.1').optional(),
  items: z.array(Item),
});
export type Board = z.infer<typeof Board>;

export { Block, Column, Feature, Parameter, Prose, Resource, Row, Solid, Summary, Table };

export const Master = z
  .object({
    id: Id,
    title: z.string().min(1).max(200),
    owner: z.string().max(200),
    purpose: z.string().max(100),
    unit: z.enum(['mm', 'cm', 'in', 'pt']),
    parameters: z.array(Parameter).max(500).optional(),
    layers: z.array(Layer).min(1),
    symbols: z.array(SymbolDefinition),
    boards: z.array(Board),
    tables: z.array(Table).max(1000).optional(),
    solids: z.array(Solid).max(MOST_SOLIDS).optional(),
    texts: z.array(Prose).max(MOST_TEXTS).optional(),
    resources: z.array(Resource),
    description: z.string().max(5000),
    /** What it is about, in single words or short terms. */
    keywords: z.array(z.string().trim().min(1).max(64)).max(64).optional(),
    /** Who may do what with it. */
    rights: z.string().max(1000).optional(),
    /** Pixels per inch that copies in pixels have, and in which colours they are stated, where nothing else is asked for. */
    ppi: z.number().min(1).max(2400).optional(),
    profile: z.enum(PROFILES).optional(),
  })
  .refine((master) => countParts(master) > 0, 'has nothing in it: no board, no table, no solid and no text');
export type Master = z.infer<typeof Master>;
export type Node =
  | Master
  | Board
  | Table
  | Column
  | Row
  | Summary
  | Solid
  | Parameter
  | Feature
  | Prose
  | Block
  | Layer
  | SymbolDefinition
  | Resource
  | Item;

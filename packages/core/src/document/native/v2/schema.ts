import * as z from 'zod';

// Native version 2 (docs/native-format-2.md). Frozen, as version 1 is.

const id = z.string().min(1).max(80);
const colour = z.string().regex(/^#[0-9a-f]{6}$/);
const number = z.number().refine(Number.isFinite);
const share = number.refine((value) => value >= 0 && value <= 1);
const point = z.tuple([number, number]);
const Segment = z.union([
  z.object({ line: point }),
  z.object({ curve: z.tuple([number, number, number, number, number, number]) }),
]);
const look = { fill: colour.nullable(), stroke: colour.nullable(), width: number.refine((value) => value >= 0), opacity: share };
const base = {
  id,
  name: z.string().max(200).optional(),
  /** null: the layer of the group or of the use of a symbol. */
  layer: id.nullable(),
  transform: z.tuple([number, number, number, number, number, number]).optional(),
};

export interface Group2 {
  kind: 'group';
  id: string;
  name?: string | undefined;
  layer: string | null;
  transform?: [number, number, number, number, number, number] | undefined;
  opacity: number;
  items: Item2[];
}
const Path2 = z.object({
  kind: z.literal('path'),
  ...base,
  ...look,
  outlines: z.array(z.object({ start: point, segments: z.array(Segment).max(200_000), closed: z.boolean() })),
});
const Text2 = z.object({
  kind: z.literal('text'),
  ...base,
  fill: colour,
  opacity: share,
  text: z.string().max(20_000),
  x: number,
  y: number,
  size: number.refine((value) => value > 0),
  bold: z.boolean(),
});
const Picture2 = z.object({
  kind: z.literal('picture'),
  ...base,
  opacity: share,
  /** SHA-256 of the file. */
  picture: z.string().regex(/^[0-9a-f]{64}$/),
  x: number,
  y: number,
  width: number.refine((value) => value > 0),
  height: number.refine((value) => value > 0),
});
const Use2 = z.object({ kind: z.literal('use'), ...base, symbol: id });
export type Item2 = z.infer<typeof Path2> | z.infer<typeof Text2> | z.infer<typeof Picture2> | z.infer<typeof Use2> | Group2;
const Group2: z.ZodType<Group2> = z.object({
  kind: z.literal('group'),
  ...base,
  opacity: share,
  get items(): z.ZodType<Item2[]> {
    return z.array(Item2);
  },
});
export const Item2: z.ZodType<Item2> = z.lazy(() => z.union([Path2, Text2, Picture2, Use2, Group2]));

export const Document2 = z.object({
  id,
  title: z.string().min(1).max(200),
  owner: z.string().max(200),
  layers: z
    .array(
      z.object({
        id,
        name: z.string().min(1).max(200),
        colour,
        visible: z.boolean(),
        process: z.enum(['print', 'cut', 'score', 'engrave', 'route', 'stitch', 'note']),
      }),
    )
    .min(1)
    .max(1000),
  symbols: z.array(z.object({ id, name: z.string().min(1).max(200), anchor: point, items: z.array(Item2) })).max(1000),
  boards: z
    .array(
      z.object({
        id,
        name: z.string().min(1).max(200),
        width: number.refine((value) => value > 0),
        height: number.refine((value) => value > 0),
        background: colour.nullable(),
        items: z.array(Item2),
      }),
    )
    .min(1)
    .max(1000),
  pictures: z
    .array(
      z.object({
        sha256: z.string().regex(/^[0-9a-f]{64}$/),
        name: z.string().max(300),
        mediaType: z.string().max(100),
        width: z.number().int().positive(),
        height: z.number().int().positive(),
      }),
    )
    .max(1000),
});
export type Document2 = z.infer<typeof Document2>;

export const Manifest2 = z.object({
  format: z.literal('inkwell'),
  version: z.literal(2),
  writer: z.string().max(200),
  rev: z.number().int().positive(),
  time: z.string().max(40),
  entries: z.array(z.object({ path: z.string().max(300), sha256: z.string().length(64) })),
});

/** A master as version 2 keeps it. */
export interface Package2 {
  readonly document: Document2;
  readonly rev: number;
  readonly time: string;
  readonly pictures: ReadonlyMap<string, Uint8Array>;
}

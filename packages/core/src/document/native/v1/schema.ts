import * as z from 'zod';

// Native version 1 (docs/native-format-1.md). Frozen: files of it are out there, so nothing here changes any more, and nothing
// here is shared with what does.

export const INDEX_EXTENSION = 'inkfolio';
export const PARTS_ENDING = '_parts';

const id = z.string().min(1).max(80);
const colour = z.string().regex(/^#[0-9a-f]{6}$/);
const number = z.number().refine(Number.isFinite);
const sha = z.string().regex(/^[0-9a-f]{64}$/);
/** A file beside the others: a plain name, so that it leads nowhere else. */
const file = z
  .string()
  .max(200)
  .regex(/^[^/\\:\u0000-\u001f]+$/)
  .refine((name) => !name.startsWith('.'), 'must not begin with a dot');

const Stretch = z.union([
  z.tuple([z.literal('M'), number, number]),
  z.tuple([z.literal('L'), number, number]),
  z.tuple([z.literal('C'), number, number, number, number, number, number]),
  z.tuple([z.literal('Z')]),
]);
const Path1 = z.object({
  kind: z.literal('path'),
  id,
  name: z.string().max(200).optional(),
  layer: id,
  /** Outlines one after the other, each begun by an M. */
  d: z.array(Stretch).min(1).max(200_000),
  fill: colour.nullable(),
  stroke: colour.nullable(),
  /** Of the line, mm. */
  width: number.refine((value) => value >= 0),
});
const Text1 = z.object({
  kind: z.literal('text'),
  id,
  name: z.string().max(200).optional(),
  layer: id,
  text: z.string().max(20_000),
  /** Where its first line begins, mm. */
  x: number,
  y: number,
  /** Height of the em square, mm. */
  size: number.refine((value) => value > 0),
  bold: z.boolean(),
  fill: colour,
});
const Picture1 = z.object({
  kind: z.literal('picture'),
  id,
  name: z.string().max(200).optional(),
  layer: id,
  file,
  x: number,
  y: number,
  width: number.refine((value) => value > 0),
  height: number.refine((value) => value > 0),
});
export const Item1 = z.discriminatedUnion('kind', [Path1, Text1, Picture1]);
export type Item1 = z.infer<typeof Item1>;

export const Board1 = z.object({
  id,
  name: z.string().min(1).max(200),
  width: number.refine((value) => value > 0),
  height: number.refine((value) => value > 0),
  background: colour.nullable(),
  items: z.array(Item1).max(200_000),
});
export type Board1 = z.infer<typeof Board1>;

export const Index1 = z.object({
  format: z.literal('inkfolio'),
  version: z.literal(1),
  writer: z.string().max(200),
  id,
  title: z.string().min(1).max(200),
  owner: z.string().max(200),
  rev: z.number().int().positive(),
  saved: z.string().max(40),
  layers: z
    .array(z.object({ id, name: z.string().min(1).max(200), colour, visible: z.boolean() }))
    .min(1)
    .max(1000),
  /** One file a board, in order. */
  boards: z
    .array(z.object({ file, sha256: sha }))
    .min(1)
    .max(1000),
  pictures: z
    .array(
      z.object({
        file,
        sha256: sha,
        mediaType: z.string().max(100),
        width: z.number().int().positive(),
        height: z.number().int().positive(),
      }),
    )
    .max(1000),
});
export type Index1 = z.infer<typeof Index1>;

/** A whole project of version 1. */
export interface Project1 {
  readonly index: Index1;
  readonly boards: readonly Board1[];
  /** Bytes by the pictures' file names. */
  readonly pictures: ReadonlyMap<string, Uint8Array>;
}

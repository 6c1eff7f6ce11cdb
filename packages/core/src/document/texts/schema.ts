import * as z from 'zod';
import { Id } from '../schema-parts-base';

/** How a stretch of words stands out. */
export const EMPHASES = ['bold', 'italic', 'underlined', 'struck', 'code', 'raised', 'lowered'] as const;
export type Emphasis = (typeof EMPHASES)[number];

/** Words that look alike. A line that ends without its paragraph ending is `\n`. */
export const Words = z.object({
  text: z.string().min(1).max(200_000),
  /** In the order of `EMPHASES`. */
  marks: z.array(z.enum(EMPHASES)).max(EMPHASES.length).optional(),
  /** Where the words lead. */
  link: z.string().min(1).max(2000).optional(),
});
export type Words = z.infer<typeof Words>;

/** A note to the words before it. */
export const Note = z.object({ note: z.array(Words).max(5000) });
export type Note = z.infer<typeof Note>;

export const Span = z.union([Words, Note]);
export type Span = z.infer<typeof Span>;
const Spans = z.array(Span).max(20_000);

export const isNote = (span: Span): span is Note => 'note' in span;

export const HEADINGS = ['heading 1', 'heading 2', 'heading 3', 'heading 4', 'heading 5', 'heading 6'] as const;
/** Items of lists: with a sign, with a number, or going on with the item before. */
export const ITEMS = ['bullet', 'numbered', 'continued'] as const;
/** What words are in a text. */
export const ROLES = ['body', ...HEADINGS, 'quote', ...ITEMS] as const;
export type Role = (typeof ROLES)[number];
export const ALIGNMENTS = ['left', 'centre', 'right', 'justified'] as const;
export type Alignment = (typeof ALIGNMENTS)[number];

export const [DEEPEST, MOST_CELLS, MOST_BLOCKS, MOST_TEXTS] = [8, 50_000, 100_000, 1000];

const isEven = ({ grid }: { grid: readonly (readonly unknown[])[] }): boolean =>
  grid.every((row) => row.length === grid[0]!.length) && grid.length * grid[0]!.length <= MOST_CELLS;

/** One paragraph of a text, or what stands in the place of one. */
export const Block = z.discriminatedUnion('block', [
  z.object({
    id: Id,
    block: z.literal('words'),
    role: z.enum(ROLES),
    /** How deep an item stands below others. */
    level: z.number().int().min(0).max(DEEPEST).optional(),
    /** An item that begins a list of its own, with this number. */
    start: z.number().int().min(0).max(1_000_000).optional(),
    align: z.enum(ALIGNMENTS).optional(),
    spans: Spans,
  }),
  z
    .object({
      id: Id,
      block: z.literal('table'),
      /** Whether its first row says what stands below. */
      head: z.boolean(),
      caption: Spans,
      /** Row by row, cell by cell. */
      grid: z.array(z.array(Spans).min(1).max(100)).min(1).max(5000),
    })
    .refine(isEven, 'must have as many cells in each row as in the first, and not too many'),
  z.object({
    id: Id,
    block: z.literal('picture'),
    /** The kept file. */
    picture: Id,
    /** What it shows, for those who don't see it. */
    alt: z.string().max(5000),
    /** mm */
    width: z.number().min(1).max(2000),
    caption: Spans,
  }),
  /** A new page, or a line across. */
  z.object({ id: Id, block: z.literal('break'), of: z.enum(['page', 'line']) }),
]);
export type Block = z.infer<typeof Block>;
export type BlockOf<K extends Block['block']> = Extract<Block, { block: K }>;

/** A language as BCP 47 names it. */
export const Language = z.string().regex(/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/, 'must be a language tag such as en or de-AT');

/** A text that flows: its paragraphs in order. */
export const Prose = z.object({
  id: Id,
  name: z.string().min(1).max(200),
  language: Language,
  blocks: z.array(Block).max(MOST_BLOCKS),
});
export type Prose = z.infer<typeof Prose>;

import * as z from 'zod';

/** What can be wrong with a part on a machine. */
export const FINDING_KINDS = [
  'off the bed',
  'too near',
  'no tool',
  'deeper than the stock',
  'deeper than the tool',
  'open outline',
  'crosses itself',
  'hole too small',
  'wrong drill',
  'tight corner',
  'too fine',
  'doubled line',
  'speck',
  'over a limit',
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];

const Box = z.object({ minX: z.number(), minY: z.number(), maxX: z.number(), maxY: z.number() });

/** One thing that keeps a part from being made on a machine. */
export const Finding = z.object({
  kind: z.enum(FINDING_KINDS),
  /** What is wrong, in one sentence. */
  words: z.string(),
  /** The master's objects concerned. */
  objects: z.array(z.string()),
  /** Where on the board, mm; null for what concerns all of it. */
  place: Box.nullable(),
  /** How much, and in which unit; null where there is no number to it. */
  amount: z.number().nullable(),
  unit: z.string(),
  /** Settings that settle it, each with what it does; what none settles is mended in the master. */
  mends: z.array(z.object({ words: z.string(), options: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])) })),
});
export type Finding = z.infer<typeof Finding>;
export type Mend = Finding['mends'][number];

/** What a machine does in all. */
export const JobSize = z.object({
  moves: z.number(),
  /** mm that it works, and mm that it goes in between. */
  worked: z.number(),
  travelled: z.number(),
  seconds: z.number(),
  /** Numbers of its tools, in the order in which they come. */
  tools: z.array(z.number()),
});
export type JobSize = z.infer<typeof JobSize>;

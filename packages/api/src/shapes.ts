import { z } from 'zod';

export const VerdictName = z.enum(['in step', 'behind', 'touched', 'crossed', 'gone', 'unreadable', 'accepted', 'not checked']);
export type VerdictName = z.infer<typeof VerdictName>;

export const ErrorBody = z.object({
  error: z.object({
    code: z.string(),
    message: z.string(),
    where: z
      .object({
        file: z.string().optional(),
        line: z.number().optional(),
        byte: z.number().optional(),
        node: z.string().optional(),
      })
      .optional(),
  }),
});
export type ErrorBody = z.infer<typeof ErrorBody>;

export const Box = z.object({ minX: z.number(), minY: z.number(), maxX: z.number(), maxY: z.number() });

/** One difference of a match check (docs of the core: match/difference). */
export const DifferenceView = z.object({
  kind: z.string(),
  what: z.string(),
  count: z.number(),
  place: Box.nullable(),
  amount: z.number().nullable(),
  unit: z.enum(['mm', '%', '×', '°', '']),
  master: z.string().nullable(),
  copy: z.string().nullable(),
  masterEntries: z.array(z.number()),
  copyEntries: z.array(z.number()),
  source: z.string().nullable(),
});
export type DifferenceView = z.infer<typeof DifferenceView>;

export const CarryLineView = z.object({
  feature: z.string(),
  outcome: z.enum(['kept', 'restated', 'approximated', 'left out']),
  what: z.string(),
  becomes: z.string(),
  count: z.number(),
  objects: z.array(z.string()),
  deviation: z.number().nullable(),
});
export const CarryView = z.object({
  sentence: z.string(),
  objects: z.number(),
  asTheyAre: z.number(),
  lines: z.array(CarryLineView),
});
export type CarryView = z.infer<typeof CarryView>;

export const RevisionView = z.object({ rev: z.number(), time: z.string(), author: z.string(), message: z.string() });
export type RevisionView = z.infer<typeof RevisionView>;

/** What becomes of a document in each version of a target. */
export const Ladder = z.object({
  /** Which version is old enough, in words; empty where there is only one. */
  words: z.string(),
  rungs: z.array(
    z.object({
      /** Empty for a target that has only one. */
      version: z.string(),
      report: CarryView,
      /** Size of the copy, forecast by writing it to nowhere. */
      bytes: z.number(),
    }),
  ),
});
export type Ladder = z.infer<typeof Ladder>;

/** What a dropped file turned out to be. */
export const Identified = z.object({
  kind: z.enum(['copy', 'master', 'original', 'other']),
  /** In one or two sentences. */
  words: z.string(),
  master: z.object({ id: z.string(), title: z.string() }).nullable(),
  /** The live copy of the same recipe, to go to. */
  copy: z.string().nullable(),
  verdict: VerdictName.nullable(),
});
export type Identified = z.infer<typeof Identified>;

/** A copy as the Desk and the Copies lane show it. */
export const CopyView = z.object({
  id: z.string(),
  recipe: z.string(),
  label: z.string(),
  group: z.enum(['delivery', 'older', 'machine']),
  target: z.string(),
  targetLabel: z.string(),
  options: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])),
  board: z.string(),
  file: z.string(),
  size: z.number(),
  rev: z.number(),
  /** Last revision for which it matched. */
  until: z.number(),
  /** The change that ended the span, in words; null while it holds. */
  endedBy: z.string().nullable(),
  verdict: VerdictName,
  remark: z.string(),
  proof: z.string(),
  checkedAt: z.string().nullable(),
  accepted: z.object({ by: z.string(), reason: z.string(), at: z.string() }).nullable(),
});
export type CopyView = z.infer<typeof CopyView>;

export const DeskRow = z.object({
  id: z.string(),
  title: z.string(),
  owner: z.string(),
  folder: z.string(),
  revisions: z.array(RevisionView),
  copies: z.array(CopyView),
  draftChanges: z.number(),
  /** A small SVG picture of the first board. */
  picture: z.string(),
});
export type DeskRow = z.infer<typeof DeskRow>;
export const Desk = z.object({
  masters: z.array(DeskRow),
  /** Masters whose record can't be read, and why; the others do not suffer from it. */
  damaged: z.array(z.object({ id: z.string(), title: z.string(), message: z.string() })),
  shelf: z.string(),
});
export type Desk = z.infer<typeof Desk>;

export const PatchBody = z.discriminatedUnion('op', [
  z.object({ op: z.literal('set'), node: z.string(), attribute: z.string(), value: z.unknown() }),
  z.object({
    op: z.literal('insert'),
    parent: z.string(),
    list: z.enum(['boards', 'layers', 'symbols', 'resources', 'items']),
    after: z.string().nullable(),
    node: z.unknown(),
  }),
  z.object({
    op: z.literal('remove'),
    parent: z.string(),
    list: z.enum(['boards', 'layers', 'symbols', 'resources', 'items']),
    node: z.string(),
  }),
]);
export const StepBody = z.object({
  label: z.string().min(1).max(300),
  forward: z.array(PatchBody).min(1).max(20_000),
  inverse: z.array(PatchBody).max(20_000),
});
export type StepBody = z.infer<typeof StepBody>;

export const DraftView = z.object({
  base: z.number(),
  /** How many of the steps are done; the rest can be done again. */
  position: z.number(),
  steps: z.array(StepBody),
  updatedAt: z.string(),
});
export type DraftView = z.infer<typeof DraftView>;

export const MasterView = z.object({
  id: z.string(),
  title: z.string(),
  file: z.string(),
  head: z.number(),
  /** The document at the head revision (docs/native-format.md, master.json). */
  document: z.record(z.string(), z.unknown()),
  revisions: z.array(RevisionView),
  copies: z.array(CopyView),
  draft: DraftView.nullable(),
});
export type MasterView = z.infer<typeof MasterView>;

export const MatchView = z.object({
  copy: CopyView,
  whole: z.boolean(),
  fresh: z.boolean().nullable(),
  true: z.boolean().nullable(),
  outlines: z.number(),
  equal: z.number(),
  tolerance: z.number(),
  differences: z.array(DifferenceView),
  /** Display lists of both sides; null where the file could not be read. */
  sides: z.object({ master: z.record(z.string(), z.unknown()), copy: z.record(z.string(), z.unknown()) }).nullable(),
});
export type MatchView = z.infer<typeof MatchView>;

export const OptionView = z.object({
  name: z.string(),
  words: z.string(),
  values: z.array(z.string()),
  standard: z.string(),
});
export const TargetView = z.object({
  id: z.string(),
  label: z.string(),
  standard: z.string(),
  group: z.enum(['delivery', 'older', 'machine']),
  extension: z.string(),
  options: z.array(OptionView),
});
export type TargetView = z.infer<typeof TargetView>;

export const EventView = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('copies'), master: z.string() }),
  z.object({ kind: z.literal('master'), master: z.string() }),
  /** Something that a person should know and need not answer. */
  z.object({ kind: z.literal('notice'), master: z.string(), message: z.string() }),
  z.object({
    kind: z.literal('job'),
    id: z.string(),
    master: z.string(),
    label: z.string(),
    done: z.number(),
    total: z.number(),
    state: z.enum(['running', 'done', 'failed', 'cancelled']),
    message: z.string(),
  }),
]);
export type EventView = z.infer<typeof EventView>;

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
  /** With 409: the draft that is there instead, null where there is none. */
  there: z.unknown().optional(),
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

/** What a person should know about a master until it is mended or taken off. */
export const NoticeView = z.object({
  id: z.string(),
  master: z.string(),
  title: z.string(),
  message: z.string(),
  at: z.string(),
});
export type NoticeView = z.infer<typeof NoticeView>;

export const DeskRow = z.object({
  id: z.string(),
  /** Where the next page goes on. */
  cursor: z.string(),
  title: z.string(),
  owner: z.string(),
  folder: z.string(),
  revisions: z.array(RevisionView),
  copies: z.array(CopyView),
  /** Changes in one's own draft. */
  draftChanges: z.number(),
  /** Others who have a draft, by name. */
  others: z.array(z.string()),
  /** A small picture of the first board; null while it is drawn. */
  picture: z.string().nullable(),
});
export type DeskRow = z.infer<typeof DeskRow>;

/** How many copies stand in a way that asks for someone, over all masters. */
export const Attention = z.object({
  verdict: VerdictName,
  copies: z.number(),
  masters: z.number(),
  /** One of them, to begin with. */
  first: z.object({ master: z.string(), title: z.string(), copy: z.string(), label: z.string() }),
});
export type Attention = z.infer<typeof Attention>;

/** What the Desk says above its rows, over all masters. */
export const Summary = z.object({
  /** How many masters there are in all, and how many were set aside. */
  total: z.number(),
  aside: z.number(),
  attention: z.array(Attention),
  notices: z.array(NoticeView),
});
export type Summary = z.infer<typeof Summary>;

export const Desk = Summary.extend({
  masters: z.array(DeskRow),
  /** The cursor to go on from; null on the last page. */
  next: z.string().nullable(),
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
  forward: z.array(PatchBody).min(1).max(40_000),
  inverse: z.array(PatchBody).max(40_000),
});
export type StepBody = z.infer<typeof StepBody>;

export const DraftView = z.object({
  base: z.number(),
  /** How many of the steps are done; the rest can be done again. */
  position: z.number(),
  steps: z.array(StepBody),
  /** The hash of its journal at its position. */
  hash: z.string(),
  updatedAt: z.string(),
  /** From before drafts had owners: whoever goes on with it takes it over. */
  unclaimed: z.boolean(),
});
export type DraftView = z.infer<typeof DraftView>;

export const MasterView = z.object({
  id: z.string(),
  title: z.string(),
  file: z.string(),
  head: z.number(),
  revisions: z.array(RevisionView),
  copies: z.array(CopyView),
  /** Whether one has a draft, or there is one that nobody has claimed. */
  draftChanges: z.number(),
  /** Others who have a draft, by name. */
  others: z.array(z.string()),
  notices: z.array(NoticeView),
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
  /** Word was lost on the way: everything should be asked for again. */
  z.object({ kind: z.literal('again'), master: z.string() }),
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

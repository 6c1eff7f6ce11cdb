import {
  CarryReport,
  Choice,
  Difference,
  HouseRules,
  LINK_STATES,
  PART_LISTS,
  Resource,
  Scope,
  Step,
  USES,
  VERDICTS,
} from '@inkwell-twin/core/shapes';
import * as z from 'zod';

export { Choice, Difference, Scope };

export const VerdictName = z.enum([...VERDICTS, 'not checked']);
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

export const RevisionView = z.object({
  rev: z.number(),
  time: z.string(),
  author: z.string(),
  message: z.string(),
  name: z.string(),
});
export type RevisionView = z.infer<typeof RevisionView>;

/** What becomes of a document in each version of a target. */
export const Ladder = z.object({
  /** Which version is old enough, in words; empty where there is only one. */
  words: z.string(),
  /** What the document has of what can be left out, by feature. */
  occurs: z.array(z.string()),
  rungs: z.array(
    z.object({
      /** Empty for a target that has only one. */
      version: z.string(),
      report: CarryReport,
      /** Size of the copy, forecast by writing it to nowhere; null where only the report was asked for. */
      bytes: z.number().nullable(),
    }),
  ),
});
export type Ladder = z.infer<typeof Ladder>;

/** What a dropped file turned out to be. */
export const Identified = z.object({
  /** `alike`: it does not say what it is, and is much like a copy. */
  kind: z.enum(['copy', 'alike', 'master', 'original', 'other']),
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
  group: z.enum(USES),
  target: z.string(),
  targetLabel: z.string(),
  options: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])),
  scope: Scope,
  choices: z.array(Choice),
  file: z.string(),
  /** Names of its further files. */
  parts: z.array(z.string()),
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

/** Kinds of jobs: a copy derived, copies checked, or what keeps a master up to date. */
export const JOB_KINDS = ['derive', 'check', 'stand', 'file', 'picture'] as const;

/** A copy that is being derived, waits for it, or could not be derived. */
export const DerivationView = z.object({
  recipe: z.string(),
  label: z.string(),
  group: z.enum(USES),
  targetLabel: z.string(),
  /** Its job, to stop it; empty where there is none. */
  job: z.string(),
  state: z.enum(['waiting', 'running', 'failed']),
  /** How many jobs come before it. */
  ahead: z.number(),
  /** Why it failed. */
  message: z.string(),
});
export type DerivationView = z.infer<typeof DerivationView>;

/** A job that takes a while, as everybody may see it. */
export const WorkView = z.object({
  job: z.string(),
  kind: z.enum(JOB_KINDS),
  label: z.string(),
  master: z.object({ id: z.string(), title: z.string() }),
  state: z.enum(['waiting', 'running']),
});
export type WorkView = z.infer<typeof WorkView>;

/** A native file on the shelf that belongs to no master of the Desk. */
export const OlderView = z.object({
  path: z.string(),
  title: z.string(),
  /** 0 where it can't be told. */
  version: z.number(),
  /** Whether a newer version wrote it: it can be looked at. */
  newer: z.boolean(),
  /** Why it can't be opened. */
  trouble: z.string().nullable(),
});
export type OlderView = z.infer<typeof OlderView>;

/** What stands under a name on the shelf. */
export const StandingView = z.object({
  what: z.enum(['master', 'folder', 'file']),
  name: z.string(),
  /** Bytes; of a folder, of what is directly in it. */
  size: z.number(),
  /** When it changed last; empty where nothing is on disk. */
  time: z.string(),
  master: z.object({ id: z.string(), title: z.string(), head: z.number(), picture: z.string().nullable() }).nullable(),
});
export type StandingView = z.infer<typeof StandingView>;

/** A file that stands where a copy would go. */
export const StandingFile = z.object({
  size: z.number(),
  /** When it changed last; empty where it is on record and not on disk. */
  time: z.string(),
  /** The copy that it is, by another recipe; null where it is somebody's file. */
  copy: z
    .object({
      id: z.string(),
      label: z.string(),
      rev: z.number(),
      verdict: VerdictName,
      /** Where a browser finds it, for what a browser shows as a picture. */
      picture: z.string().nullable(),
    })
    .nullable(),
});
export type StandingFile = z.infer<typeof StandingFile>;

/** What a person should know about a master until it is mended or taken off. */
export const NoticeView = z.object({
  id: z.string(),
  master: z.string(),
  title: z.string(),
  message: z.string(),
  at: z.string(),
  /** The recipe that could not be derived, to try it again. */
  recipe: z.string().nullable(),
});
export type NoticeView = z.infer<typeof NoticeView>;

/** How the Desk can be ordered, the usual way first. */
export const DESK_ORDERS = ['begun', 'name', 'changed', 'trouble'] as const;
export type DeskOrder = (typeof DESK_ORDERS)[number];
/** What its rows can be laid together by. */
export const DESK_GROUPS = ['none', 'folder', 'keyword', 'owner'] as const;
export type DeskGroup = (typeof DESK_GROUPS)[number];

export const DeskRow = z.object({
  id: z.string(),
  title: z.string(),
  owner: z.string(),
  folder: z.string(),
  /** How its description outside stands, where that is not in step. */
  description: z.enum(['pending', 'outside', 'both', 'gone', 'unreadable']).nullable(),
  keywords: z.array(z.string()),
  /** What it is laid together by, and how many stand there; a master may stand in several groups. */
  group: z.object({ name: z.string(), count: z.number() }),
  /** How many days a master that was thrown away can still be brought back; null for others. */
  daysLeft: z.number().nullable(),
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
  /** How many were thrown away and can be brought back. */
  thrown: z.number(),
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

/** One act of a person, as it goes over the wire. */
export const StepBody = Step;
export type StepBody = z.infer<typeof StepBody>;

export const DraftView = z.object({
  base: z.number(),
  /** How many of the steps are done; the rest can be done again. */
  position: z.number(),
  steps: z.array(Step),
  /** The hash of its journal at its position. */
  hash: z.string(),
  updatedAt: z.string(),
  /** From before drafts had owners: whoever goes on with it takes it over. */
  unclaimed: z.boolean(),
});
export type DraftView = z.infer<typeof DraftView>;

export const MasterView = z.object({
  id: z.string(),
  /** Of this bringing-in: one that was deleted for good and is brought in again keeps its id and has another life. */
  life: z.string(),
  title: z.string(),
  file: z.string(),
  /** Where it lies on the shelf. */
  folder: z.string(),
  /** The files of an older native version that it was opened from, and whether one of now stands beside them. */
  older: z
    .object({ version: z.number(), files: z.array(z.object({ file: z.string(), size: z.number() })), updated: z.boolean() })
    .nullable(),
  /** Its file on the shelf that another program changed. */
  outside: z.object({ sha256: z.string(), base: z.number(), at: z.string(), trouble: z.string().nullable() }).nullable(),
  /** How many of its linked files are not as they were last seen. */
  brokenLinks: z.number(),
  head: z.number(),
  revisions: z.array(RevisionView),
  copies: z.array(CopyView),
  /** What is being derived, waits for it, or could not be derived. */
  derivations: z.array(DerivationView),
  /** Whether one has a draft, or there is one that nobody has claimed. */
  draftChanges: z.number(),
  /** Others who have a draft, by name. */
  others: z.array(z.string()),
  notices: z.array(NoticeView),
});
export type MasterView = z.infer<typeof MasterView>;

/** How a linked file stands. */
export const LinkView = z.object({
  resource: z.string(),
  state: z.enum(LINK_STATES),
  /** Where it was found, or was looked for. */
  path: z.string(),
  words: z.string(),
  /** Whether its bytes as they were last seen are kept here. */
  kept: z.boolean(),
  /** Bytes of the file as it is now. */
  size: z.number().nullable(),
  /** Where the same bytes lie instead. */
  elsewhere: z.array(z.string()),
});
export type LinkView = z.infer<typeof LinkView>;

/** The rules of the house. */
export const HouseView = z.object({ rules: HouseRules, by: z.string(), at: z.string().nullable() });
export type HouseView = z.infer<typeof HouseView>;

/** A master of a newer native version, as far as it can be looked at. */
export const NewerView = z.object({
  version: z.number(),
  writer: z.string(),
  title: z.string(),
  rev: z.number(),
  /** Whom to ask for a version that can be worked with here; empty where it doesn't say. */
  ask: z.string(),
  /** Its boards as PNG, base64. */
  pictures: z.array(z.object({ name: z.string(), png: z.string() })),
  notShown: z.array(z.object({ kind: z.string(), count: z.number() })),
});
export type NewerView = z.infer<typeof NewerView>;

/** How the description of a master, or of a picture that it links to, and its file outside stand. */
export const OutsideDescription = z.object({
  master: z.string(),
  title: z.string(),
  /** A picture that the master links to, by its id; empty for the master itself. */
  about: z.string(),
  /** What that picture is called. */
  picture: z.string(),
  file: z.string(),
  state: z.enum(['none', 'in step', 'pending', 'outside', 'both', 'gone', 'unreadable']),
  trouble: z.string().nullable(),
  /** Whether every update writes it out. */
  standing: z.boolean(),
  fields: z.array(
    z.object({
      field: z.enum(['keywords', 'caption', 'rights', 'corrections']),
      base: z.string(),
      inside: z.string(),
      outside: z.string(),
      changed: z.enum(['inside', 'outside', 'both']),
    }),
  ),
});
export type OutsideDescription = z.infer<typeof OutsideDescription>;

/** A file on the shelf, by its path. */
export const ShelfFile = z.object({ path: z.string(), size: z.number(), time: z.string() });
export type ShelfFile = z.infer<typeof ShelfFile>;

/** A picture that is kept with a master, and the size that it asks for, mm. */
export const KeptPictureView = z.object({
  resource: Resource,
  width: z.number(),
  height: z.number(),
  notUnderstood: z.array(z.object({ kind: z.string(), count: z.number() })),
});

/** What is called something, a few of each. */
export const Found = z.object({
  masters: z.array(z.object({ id: z.string(), title: z.string(), owner: z.string() })),
  copies: z.array(z.object({ id: z.string(), master: z.string(), title: z.string(), label: z.string(), verdict: VerdictName })),
  revisions: z.array(z.object({ master: z.string(), title: z.string(), rev: z.number(), name: z.string(), message: z.string() })),
  /** Objects and symbols by the name that somebody gave them; `part` is empty of a symbol. */
  objects: z.array(z.object({ master: z.string(), title: z.string(), id: z.string(), name: z.string(), part: z.string() })),
});
export type Found = z.infer<typeof Found>;

/** One part of a side of a comparison. */
export const LeafView = z.object({ kind: z.string(), label: z.string() });

export const MatchView = z.object({
  /** Null of a file that is not on record. */
  copy: CopyView.nullable(),
  /** Null where nobody knows. */
  intact: z.boolean().nullable(),
  unchanged: z.boolean().nullable(),
  matches: z.boolean().nullable(),
  outlines: z.number(),
  equal: z.number(),
  tolerance: z.number(),
  /** How far it is from the master itself, in words; empty where no line was rewritten, or it is not in step. */
  apart: z.string(),
  differences: z.array(Difference),
  /** The sheets of both sides, part by part, for asking for what each says; null where the file could not be read. */
  sides: z.object({ master: z.array(LeafView), copy: z.array(LeafView) }).nullable(),
});
export type MatchView = z.infer<typeof MatchView>;

/** An option of a target, as a form shows it. */
export const OptionView = z.object({
  name: z.string(),
  words: z.string(),
  kind: z.enum(['number', 'choice', 'yes or no', 'text']),
  default: z.union([z.string(), z.number(), z.boolean()]),
  unit: z.string(),
  min: z.number().nullable(),
  max: z.number().nullable(),
  whole: z.boolean(),
  choices: z.array(z.object({ value: z.string(), label: z.string() })),
});
export type OptionView = z.infer<typeof OptionView>;
export const TargetView = z.object({
  id: z.string(),
  label: z.string(),
  standard: z.string(),
  group: z.enum(USES),
  extension: z.string(),
  /** Name of the option that says the version; null where there is only one. */
  version: z.string().nullable(),
  /** The parts of masters that it says something of. */
  says: z.array(z.enum(PART_LISTS)),
  /** Whether a copy can say several of them. */
  many: z.boolean(),
  options: z.array(OptionView),
  /** Features that can be left out by choice, by name. */
  features: z.array(z.object({ name: z.string(), words: z.string() })),
});
export type TargetView = z.infer<typeof TargetView>;

/** A window that looks at a master; who sits there by what everybody may know (publicPerson). */
export const PresentView = z.object({ tab: z.string(), person: z.string(), name: z.string() });
export type PresentView = z.infer<typeof PresentView>;

export const EventView = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('copies'), master: z.string() }),
  z.object({ kind: z.literal('master'), master: z.string() }),
  /** Word was lost on the way: everything should be asked for again. */
  z.object({ kind: z.literal('again'), master: z.string() }),
  /** Which windows look at a master now. */
  z.object({ kind: z.literal('present'), master: z.string(), tabs: z.array(PresentView) }),
  /** Somebody's draft moved, in one of their windows; `person` as everybody may know them (publicPerson). */
  z.object({
    kind: z.literal('draft'),
    master: z.string(),
    person: z.string(),
    name: z.string(),
    tab: z.string(),
    position: z.number(),
  }),
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

/** How a file would be read that says little of itself. */
export const LookView = z.object({
  settings: z.array(
    z.object({
      name: z.enum(['encoding', 'delimiter', 'decimal', 'dates', 'unit', 'up']),
      label: z.string(),
      value: z.string(),
      choices: z.array(z.object({ value: z.string(), label: z.string() })),
      sure: z.boolean(),
    }),
  ),
  columns: z.array(z.object({ name: z.string(), unit: z.string(), type: z.string() })),
  rows: z.array(z.array(z.string())),
  remarks: z.array(z.string()),
});
export type LookView = z.infer<typeof LookView>;

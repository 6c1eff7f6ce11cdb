import { CarryReport, Choice, PART_LISTS, Scope, SeenCheck, VariantRow, USES, VERDICTS } from '@inkwell-twin/core/shapes';
import * as z from 'zod';

// Copies: what they are derived by, how they stand, and what is at work on them.

export const VerdictName = z.enum([...VERDICTS, 'not checked']);
export type VerdictName = z.infer<typeof VerdictName>;

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
  /** `alike`: it does not say what it is, and is much like a copy; `job`: what a machine is told by somebody else. */
  kind: z.enum(['copy', 'alike', 'master', 'original', 'job', 'other']),
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
  /** The row that it is a variant by; null for one that is none. */
  row: VariantRow.nullable(),
  /** The same for all variants that were asked for together; null for one that is none. */
  series: z.object({ id: z.string(), label: z.string() }).nullable(),
  /** Whether a password opens it. */
  locked: z.boolean(),
  /** Whether it is written again with each update of its master. */
  eachUpdate: z.boolean(),
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
export const JOB_KINDS = ['derive', 'series', 'check', 'stand', 'orders', 'file', 'picture'] as const;

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
  /** How many copies it stands for: of variants, those that are not there yet. */
  left: z.number(),
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

/** An option of a target, as a form shows it. */
export const OptionView = z.object({
  name: z.string(),
  words: z.string(),
  kind: z.enum(['number', 'choice', 'yes or no', 'text', 'machine', 'objects']),
  /** Of a machine: the standard that its files follow. */
  language: z.string(),
  default: z.union([z.string(), z.number(), z.boolean()]),
  unit: z.string(),
  min: z.number().nullable(),
  max: z.number().nullable(),
  whole: z.boolean(),
  /** Where it means something: for parts of one list alone, where a feature occurs, with some values of other options. */
  only: z.object({
    part: z.string().optional(),
    feature: z.string().optional(),
    machine: z.boolean().optional(),
    with: z.record(z.string(), z.array(z.string())).optional(),
  }),
  choices: z.array(z.object({ value: z.string(), label: z.string() })),
});
export type OptionView = z.infer<typeof OptionView>;
export const TargetView = z.object({
  id: z.string(),
  label: z.string(),
  standard: z.string(),
  group: z.enum(USES),
  /** What else it can be for, by which options. */
  also: z.array(z.object({ group: z.enum(USES), options: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])) })),
  extension: z.string(),
  /** Name of the option that says the version; null where there is only one. */
  version: z.string().nullable(),
  /** The parts of masters that it says something of. */
  says: z.array(z.enum(PART_LISTS)),
  /** Whether a copy can say several of them. */
  many: z.boolean(),
  /** Whether a copy is always of all of them. */
  whole: z.boolean(),
  options: z.array(OptionView),
  /** Features that can be left out by choice, by name. */
  features: z.array(z.object({ name: z.string(), words: z.string() })),
  /** Whether there are options that make a copy smaller. */
  shrinks: z.boolean(),
});
export type TargetView = z.infer<typeof TargetView>;

/** What a program of an older version sees of a copy, and whether that is what the copy was to say. */
export const SeenView = z.object({
  /** All readers that there are for such a file, oldest first; empty where there are none. */
  readers: z.array(z.string()),
  /** The one that was asked; empty where there is none. */
  reader: z.string(),
  opens: z.boolean(),
  /** Why it does not, and at which line, or byte of a binary file. */
  refused: z.object({ at: z.number(), words: z.string() }).nullable(),
  /** What it passes over, because it does not know it. */
  dropped: z.array(z.object({ what: z.string(), count: z.number() })),
  lines: z.number(),
  texts: z.number(),
  pictures: z.number(),
  /** Beside what the copy was to say, of each side the first some; null where that is more than one board. */
  held: SeenCheck.nullable(),
  /** As an SVG drawing. */
  picture: z.string(),
});
export type SeenView = z.infer<typeof SeenView>;

import { HouseRules, Step } from '@inkwell-twin/core/shapes';
import * as z from 'zod';
import { CopyView, DerivationView } from './copies';

// Masters, their revisions and drafts.

export const RevisionView = z.object({
  rev: z.number(),
  time: z.string(),
  author: z.string(),
  message: z.string(),
  name: z.string(),
});
export type RevisionView = z.infer<typeof RevisionView>;

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

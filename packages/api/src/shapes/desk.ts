import * as z from 'zod';
import { CopyView, VerdictName } from './copies';
import { NoticeView, RevisionView } from './masters';

// The Desk, and what is found by name.

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

export { DESK_GROUPS, DESK_ORDERS, type DeskGroup, type DeskOrder } from '../constants';

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

/** What is called something, a few of each. */
export const Found = z.object({
  masters: z.array(z.object({ id: z.string(), title: z.string(), owner: z.string() })),
  copies: z.array(z.object({ id: z.string(), master: z.string(), title: z.string(), label: z.string(), verdict: VerdictName })),
  revisions: z.array(z.object({ master: z.string(), title: z.string(), rev: z.number(), name: z.string(), message: z.string() })),
  /** Objects and symbols by the name that somebody gave them; `part` is empty of a symbol. */
  objects: z.array(z.object({ master: z.string(), title: z.string(), id: z.string(), name: z.string(), part: z.string() })),
});
export type Found = z.infer<typeof Found>;

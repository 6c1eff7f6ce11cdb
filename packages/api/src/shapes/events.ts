import * as z from 'zod';

// What a browser is told as it happens.

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

import * as z from 'zod';

const BoardId = z.string().min(1).max(200);

/** What part of a master a copy is made of. */
export const Scope = z.discriminatedUnion('of', [
  /** Boards by id or name, in this order; none named is the first board. With `objects`, only those objects and what is in them. */
  z.object({
    of: z.literal('boards'),
    ids: z.array(BoardId).max(1000),
    objects: z.array(z.string().max(80)).max(100_000).optional(),
  }),
  /** All of it. */
  z.object({ of: z.literal('master') }),
]);
export type Scope = z.infer<typeof Scope>;

/** What a person decided about a feature that a target can't hold, or holds and shall not. */
export const Choice = z.object({ feature: z.string().max(60), take: z.literal('left out') });
export type Choice = z.infer<typeof Choice>;

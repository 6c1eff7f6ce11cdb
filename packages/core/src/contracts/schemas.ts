import * as z from 'zod';

const PartId = z.string().min(1).max(200);

/** The lists of parts that a master may have, and what one part of each is called. */
export const PARTS = { boards: 'board', tables: 'table', solids: 'solid', texts: 'text' } as const;
export type PartList = keyof typeof PARTS;
export const PART_LISTS = Object.keys(PARTS) as PartList[];

/** What part of a master a copy is made of. */
export const Scope = z.discriminatedUnion('of', [
  /** Boards by id or name, in this order; none named is the first board. With `objects`, only those objects and what is in them. */
  z.object({
    of: z.literal('boards'),
    ids: z.array(PartId).max(1000),
    objects: z.array(z.string().max(80)).max(100_000).optional(),
    /** The copy is as large as those objects, not as their board. */
    trimmed: z.literal(true).optional(),
  }),
  /** Tables by id or name, likewise. */
  z.object({ of: z.literal('tables'), ids: z.array(PartId).max(1000) }),
  /** Solids by id or name, likewise. */
  z.object({ of: z.literal('solids'), ids: z.array(PartId).max(1000) }),
  /** Texts by id or name, likewise. */
  z.object({ of: z.literal('texts'), ids: z.array(PartId).max(1000) }),
  /** All of it that the target has a place for. */
  z.object({ of: z.literal('master') }),
]);
export type Scope = z.infer<typeof Scope>;

/** What a person decided about a feature that a target can't hold, or holds and shall not. */
export const Choice = z.object({ feature: z.string().max(60), take: z.literal('left out') });
export type Choice = z.infer<typeof Choice>;

/**
 * The row that a variant is made by: of a table of the master, so that a copy follows what the row says; or what a row of a
 * file said, parameter by parameter, which stays as it was.
 */
export const VariantRow = z.union([
  z.strictObject({ table: PartId, row: PartId }),
  z.strictObject({ values: z.record(z.string().max(200), z.union([z.number(), z.string().max(32_767)])) }),
]);
export type VariantRow = z.infer<typeof VariantRow>;

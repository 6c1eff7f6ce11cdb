import * as z from 'zod';

/** Something on one side only, and where, mm. */
const Alone = z.object({
  what: z.enum(['line', 'text']),
  layer: z.string(),
  at: z.tuple([z.number(), z.number()]).readonly(),
  words: z.string(),
});
export type Alone = z.infer<typeof Alone>;

/** How what another program sees of a copy stands to what the copy was to say. */
export const SeenCheck = z.object({
  /** How many lines and texts were to be seen. */
  lines: z.number(),
  texts: z.number(),
  /** How far a line that was found lies off at most, mm. */
  furthest: z.number(),
  missing: z.array(Alone),
  more: z.array(Alone),
});
export type SeenCheck = z.infer<typeof SeenCheck>;

import { LINK_STATES, Resource } from '@inkwell-twin/core/shapes';
import * as z from 'zod';

// Files: linked, described, brought in.

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

/** How a file would be read that says little of itself. */
export const LookView = z.object({
  settings: z.array(
    z.object({
      name: z.enum(['encoding', 'delimiter', 'decimal', 'dates', 'heading', 'quotes', 'lines', 'unit', 'up']),
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

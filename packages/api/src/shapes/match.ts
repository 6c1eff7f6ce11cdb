import { Difference } from '@inkwell-twin/core/shapes';
import * as z from 'zod';
import { CopyView } from './copies';

// A comparison of a copy with its master.

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

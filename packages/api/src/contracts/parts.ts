import { Choice, Scope } from '@inkwell-twin/core/shapes';
import * as z from 'zod';

export const Done = z.object({ done: z.literal(true) });
export const Job = z.object({ job: z.string() });
export const RecipeBody = z.object({
  target: z.string().max(20),
  options: z.record(z.string().max(40), z.union([z.string().max(40_000), z.number(), z.boolean()])).default({}),
  scope: Scope.default({ of: 'boards', ids: [] }),
  choices: z.array(Choice).max(50).default([]),
});
export type RecipeBody = z.input<typeof RecipeBody>;
export const LabelledBody = RecipeBody.extend({ label: z.string().trim().min(1).max(120) });
/** What opens a copy; null where it is not locked. How long it may be is said by who locks. */
export const Password = z.string().max(10_000).nullable();

const Several = z.object({ masters: z.array(z.string().max(80)).min(1).max(500) });
/** Descriptions of masters and of the pictures that they link to: all of them, or some by what they are about. */
export const Described = Several.extend({ about: z.array(z.string().max(80)).min(1).max(500).optional() });
export const Failed = z.object({ failed: z.array(z.object({ master: z.string(), message: z.string() })) });
export const Hash = z.string().regex(/^[0-9a-f]{64}$/, 'must be a hash of 64 digits');
export const DraftState = z.object({ position: z.number(), hash: z.string() });

import type * as z from 'zod';
import { ARRIVALS } from './arrivals';
import { COPIES } from './copies';
import { DESCRIPTIONS } from './descriptions';
import { DESK } from './desk';
import { DRAFTS } from './drafts';
import { HOUSE } from './house';
import { MASTERS } from './masters';
import { PICTURES } from './pictures';
import { REVISIONS } from './revisions';
import type { Contract } from './route';

export { type Contract, FILE_TYPE, JSON_TYPE } from './route';
export { RecipeBody } from './parts';

/** Who asks: an id that the browser keeps (and a name, percent-encoded). Needed wherever a draft is touched. */
export const PERSON_HEADER = 'x-inkwell-person';
export const NAME_HEADER = 'x-inkwell-name';
/** The window that asks, so that it is not told of what it did itself. */
export const TAB_HEADER = 'x-inkwell-tab';

/** Masters on one page of the Desk. */
export const DESK_PAGE = 24;
/** Largest file that can be brought in, bytes. */
export const BRING_IN_LIMIT = 64 * 1024 * 1024;

/** All routes, a file a resource. */
export const CONTRACTS = {
  ...DESK,
  ...MASTERS,
  ...ARRIVALS,
  ...REVISIONS,
  ...DRAFTS,
  ...PICTURES,
  ...DESCRIPTIONS,
  ...HOUSE,
  ...COPIES,
} as const;
export type Contracts = typeof CONTRACTS;
export type BodyOf<K extends keyof Contracts> = Contracts[K] extends Contract<infer B, z.ZodType> ? z.input<B> : never;
export type AnswerOf<K extends keyof Contracts> = Contracts[K] extends Contract<z.ZodType, infer R> ? z.infer<R> : never;

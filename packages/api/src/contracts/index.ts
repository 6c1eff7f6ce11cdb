import type * as z from 'zod';
import { ARRIVALS } from './arrivals';
import { BENCH_ROUTES } from './bench';
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

export { BRING_IN_LIMIT, DESK_PAGE, NAME_HEADER, PERSON_HEADER, TAB_HEADER } from '../constants';

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
  ...BENCH_ROUTES,
} as const;
export type Contracts = typeof CONTRACTS;
export type BodyOf<K extends keyof Contracts> = Contracts[K] extends Contract<infer B, z.ZodType> ? z.input<B> : never;
export type AnswerOf<K extends keyof Contracts> = Contracts[K] extends Contract<z.ZodType, infer R> ? z.infer<R> : never;

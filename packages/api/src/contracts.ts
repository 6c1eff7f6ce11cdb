import { z } from 'zod';
import { CopyView, Desk, DraftView, Identified, Ladder, MasterView, MatchView, StepBody, TargetView } from './shapes';

/** One route: where it is, what it takes, what it answers. Server, web and the OpenAPI document read the same line. */
export interface Contract<B extends z.ZodType = z.ZodType, R extends z.ZodType = z.ZodType> {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  /** Express style: `:name` for parameters. */
  readonly path: string;
  readonly summary: string;
  readonly body: B | null;
  readonly answer: R;
}

const route = <B extends z.ZodType, R extends z.ZodType>(
  method: Contract['method'],
  path: string,
  summary: string,
  body: B | null,
  answer: R,
): Contract<B, R> => ({ method, path, summary, body, answer });

const Done = z.object({ done: z.literal(true) });
const Job = z.object({ job: z.string() });
export const RecipeBody = z.object({
  target: z.string().max(20),
  options: z.record(z.string().max(40), z.union([z.string().max(200), z.number(), z.boolean()])).default({}),
  board: z.string().max(200).default(''),
});
export type RecipeBody = z.input<typeof RecipeBody>;
const LabelledBody = RecipeBody.extend({ label: z.string().trim().min(1).max(120) });

/** Largest file that can be brought in, bytes. */
export const BRING_IN_LIMIT = 64 * 1024 * 1024;

export const CONTRACTS = {
  health: route('get', '/api/health', 'Whether the server can work', null, z.object({ status: z.literal('ok') })),
  desk: route('get', '/api/desk', 'All masters and how their copies stand', null, Desk),
  targets: route('get', '/api/targets', 'Targets and their options', null, z.object({ targets: z.array(TargetView) })),
  newMaster: route(
    'post',
    '/api/masters',
    'A new, empty master for a purpose',
    z.object({ title: z.string().trim().min(1).max(200), purpose: z.string().max(40), owner: z.string().max(200) }),
    z.object({ id: z.string() }),
  ),
  bringIn: route(
    'post',
    '/api/bring-in',
    'A supplied file (the request body; name in ?name=) as a new master',
    null,
    z.object({
      id: z.string(),
      title: z.string(),
      objects: z.number(),
      notUnderstood: z.array(z.object({ kind: z.string(), count: z.number() })),
    }),
  ),
  identify: route(
    'post',
    '/api/identify',
    'What a file is (the request body; name in ?name=): a copy of ours, a master, an original, or something else. Keeps nothing',
    null,
    Identified,
  ),
  master: route('get', '/api/masters/:id', 'A master at its head revision, with draft and copies', null, MasterView),
  revision: route(
    'get',
    '/api/masters/:id/revisions/:rev',
    'The document at a revision',
    null,
    z.object({ document: z.record(z.string(), z.unknown()) }),
  ),
  original: route('get', '/api/masters/:id/originals/:sha', 'The bytes of a supplied file, as they came', null, z.unknown()),
  addSteps: route(
    'post',
    '/api/masters/:id/draft/steps',
    'Adds steps to the draft, after `position`',
    z.object({
      base: z.number().int().positive(),
      position: z.number().int().nonnegative(),
      steps: z.array(StepBody).min(1).max(500),
    }),
    z.object({ position: z.number() }),
  ),
  moveDraft: route(
    'put',
    '/api/masters/:id/draft/position',
    'Undo and redo: how many steps of the draft are done',
    z.object({ position: z.number().int().nonnegative() }),
    z.object({ position: z.number() }),
  ),
  draft: route('get', '/api/masters/:id/draft', 'The draft', null, z.object({ draft: DraftView.nullable() })),
  discardDraft: route('delete', '/api/masters/:id/draft', 'Throws the draft away', null, Done),
  update: route(
    'post',
    '/api/masters/:id/update',
    'Writes the draft as the next revision',
    z.object({
      base: z.number().int().positive(),
      position: z.number().int().positive(),
      message: z.string().max(1000),
      author: z.string().max(200),
    }),
    z.object({ rev: z.number(), job: z.string() }),
  ),
  carry: route(
    'post',
    '/api/masters/:id/carry',
    'What becomes of the head revision in each version of a target, oldest first; writes nothing',
    RecipeBody,
    Ladder,
  ),
  copyName: route(
    'post',
    '/api/masters/:id/copy-name',
    'The name that a copy would get: by the rule, and after looking at what is taken',
    LabelledBody,
    z.object({ wanted: z.string(), file: z.string() }),
  ),
  addRecipe: route(
    'post',
    '/api/masters/:id/copies',
    'Keeps a recipe and derives its first copy',
    LabelledBody,
    z.object({ recipe: z.string(), job: z.string() }),
  ),
  deriveAgain: route('post', '/api/copies/:id/derive', 'Derives a copy again from the head revision', null, Job),
  check: route('post', '/api/copies/:id/check', 'Checks one copy', null, Job),
  checkAll: route('post', '/api/masters/:id/check', 'Checks all copies of a master', null, Job),
  match: route('get', '/api/copies/:id/match', 'A full comparison, with both sides', null, MatchView),
  accept: route(
    'post',
    '/api/copies/:id/accept',
    'Accepts the differences until copy or master change again',
    z.object({ by: z.string().trim().min(1).max(200), reason: z.string().trim().min(1).max(500) }),
    z.object({ copy: CopyView }),
  ),
  withdraw: route('post', '/api/copies/:id/withdraw', 'Takes a copy out of the list; its file stays on the shelf', null, Done),
  file: route('get', '/api/copies/:id/file', 'The bytes of a copy as written', null, z.unknown()),
  cancel: route('post', '/api/jobs/:id/cancel', 'Stops a job after the copy it is at', null, Done),
} as const;
export type Contracts = typeof CONTRACTS;
export type BodyOf<K extends keyof Contracts> = Contracts[K] extends Contract<infer B, z.ZodType> ? z.input<B> : never;
export type AnswerOf<K extends keyof Contracts> = Contracts[K] extends Contract<z.ZodType, infer R> ? z.infer<R> : never;

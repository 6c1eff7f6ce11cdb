import { Finding, JobSize } from '@inkwell-twin/core/shapes';
import * as z from 'zod';
import { CopyView, Ladder, MatchView, SeenView, StandingFile, TargetView, WorkView } from '../shapes';
import { Done, Job, LabelledBody, Password, RecipeBody } from './parts';
import { FILE_TYPE, route } from './route';

const AtWork = z.object({
  total: z.number(),
  jobs: z.array(WorkView),
  /** How many masters of the demo are on the Desk, while it is being loaded. */
  demo: z.object({ done: z.number(), total: z.number() }).nullable(),
});

/** Copies, from their recipe to their verdict. */
export const COPIES = {
  targets: route('get', '/api/targets', 'Targets and their options', null, z.object({ targets: z.array(TargetView) })),
  carry: route(
    'post',
    '/api/masters/:id/carry',
    'What becomes of the head revision in each version of a target, oldest first; writes nothing. With quick, without sizes',
    RecipeBody.extend({ quick: z.boolean().default(false) }),
    Ladder,
  ),
  foresee: route(
    'post',
    '/api/masters/:id/foresee',
    'A copy as it will be, beside what is in the master itself: written, read back and kept nowhere; packed as a comparison is. The part of it in ?leaf=; with row, that of a variant',
    RecipeBody.extend({
      row: z
        .object({ table: z.string().min(1).max(200), row: z.string().min(1).max(80) })
        .nullable()
        .default(null),
    }),
    MatchView,
    ['leaf'],
    { answers: FILE_TYPE },
  ),
  fit: route(
    'post',
    '/api/masters/:id/fit',
    'The options with the least loss by which a copy is no larger than asked; writes nothing',
    RecipeBody.extend({ most: z.number().int().min(1).max(1e12) }),
    z.object({
      options: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])),
      bytes: z.number(),
      /** How many ways were tried. */
      tried: z.number(),
    }),
  ),
  machineFit: route(
    'post',
    '/api/masters/:id/machine-fit',
    'What keeps the head revision from being made on the machine of the recipe, gravest first; where nothing does, how long the machine works at it',
    RecipeBody,
    z.object({ findings: z.array(Finding).readonly(), job: JobSize.nullable() }),
  ),
  copyName: route(
    'post',
    '/api/masters/:id/copy-name',
    'The name that a copy would get: by the rule, and after looking at what is taken; and what stands under the name by the rule',
    LabelledBody,
    z.object({ wanted: z.string(), file: z.string(), standing: StandingFile.nullable() }),
  ),
  addRecipe: route(
    'post',
    '/api/masters/:id/copies',
    'Keeps a recipe and derives its first copy. With replace it takes the place of what stands under its name: a copy there is withdrawn, what somebody else left there gets another name',
    LabelledBody.extend({
      replace: z.boolean().default(false),
      password: Password.default(null),
      eachUpdate: z.boolean().default(false),
    }),
    z.object({ recipe: z.string(), job: z.string() }),
  ),
  addVariants: route(
    'post',
    '/api/masters/:id/variants',
    'Keeps a recipe for each row of a table whose columns are named as parameters are, and derives their copies in one job. Rows that can give no copy are told, and do not stop the others',
    LabelledBody.extend({
      table: z.string().min(1).max(200),
      /** Rows by their ids; null for all. */
      rows: z.array(z.string().max(80)).min(1).max(5_000).nullable().default(null),
      /** The number of the first row, with as many digits as all are to have; empty for none. */
      serial: z.string().max(9).default(''),
      password: Password.default(null),
      eachUpdate: z.boolean().default(false),
    }),
    z.object({
      series: z.string(),
      job: z.string(),
      count: z.number(),
      failed: z.array(z.object({ row: z.string(), name: z.string(), problem: z.string() })),
    }),
  ),
  lockCopy: route(
    'post',
    '/api/copies/:id/password',
    'Locks a copy with a password, with another one, or with none: it is derived again from the head revision',
    z.object({ password: Password }),
    Job,
  ),
  orderCopy: route(
    'put',
    '/api/copies/:id/each-update',
    'Says whether a copy is written again with each update of its master. What somebody changed meanwhile is left as it is',
    z.object({ eachUpdate: z.boolean() }),
    z.object({ copy: CopyView }),
  ),
  deriveAgain: route('post', '/api/copies/:id/derive', 'Derives a copy again from the head revision', null, Job),
  deriveRecipe: route('post', '/api/recipes/:id/derive', 'Tries again to derive a copy that could not be derived', null, Job),
  removeRecipe: route(
    'delete',
    '/api/recipes/:id',
    'Gives up a copy that could not be derived: it is asked for no more',
    null,
    Done,
  ),
  deriveBehind: route(
    'post',
    '/api/derive-behind',
    'Derives every copy again that is behind: of some masters, or of all on the Desk. What somebody changed is left as it is',
    z.object({ masters: z.array(z.string().max(80)).min(1).max(500).nullable() }),
    z.object({ count: z.number() }),
  ),
  deriveMany: route(
    'post',
    '/api/derive-many',
    'Asks for copies of several masters by several settings of the house: of all parts in one, or else of each part. What can’t be made is told, and keeps nothing else',
    z.object({
      masters: z.array(z.string().max(80)).min(1).max(500),
      settings: z.array(z.string().min(1).max(80)).min(1).max(50),
    }),
    z.object({
      count: z.number(),
      failed: z.array(z.object({ master: z.string(), title: z.string(), settings: z.string(), message: z.string() })),
    }),
  ),
  check: route('post', '/api/copies/:id/check', 'Checks one copy', null, Job),
  checkAll: route('post', '/api/masters/:id/check', 'Checks all copies of a master', null, Job),
  match: route(
    'get',
    '/api/copies/:id/match',
    'A full comparison with both sides, packed: the length of the head (4 bytes, little-endian), the head as JSON, then what each part of either side says, as `leafOfMatch` reads it',
    null,
    MatchView,
    [],
    { answers: FILE_TYPE },
  ),
  openedBy: route(
    'get',
    '/api/copies/:id/readers/:reader',
    'What a program of an older version sees of a copy: `own` for one of the version that the copy is written in',
    null,
    SeenView,
  ),
  accept: route(
    'post',
    '/api/copies/:id/accept',
    'Accepts the differences until copy or master change again',
    z.object({ by: z.string().trim().min(1).max(200), reason: z.string().trim().min(1).max(500) }),
    z.object({ copy: CopyView }),
  ),
  withdraw: route('post', '/api/copies/:id/withdraw', 'Takes a copy out of the list; its file stays on the shelf', null, Done),
  restoreCopy: route('post', '/api/copies/:id/restore', 'Puts a copy that was withdrawn back on the list, as it was', null, Done),
  withdrawSeries: route(
    'post',
    '/api/series/:id/withdraw',
    'Takes all variants of a series out of the list; their files stay on the shelf. Says which copies those were',
    null,
    z.object({ copies: z.array(z.string()) }),
  ),
  restoreSeries: route(
    'post',
    '/api/series/:id/restore',
    'Puts variants that were withdrawn back on the list, as they were',
    z.object({ copies: z.array(z.string().max(80)).min(1).max(5_000) }),
    Done,
  ),
  file: route(
    'get',
    '/api/copies/:id/file',
    'The bytes of a copy as written; ?part= the name of a further file',
    null,
    z.unknown(),
    ['part'],
    { answers: FILE_TYPE },
  ),
  copiesZip: route(
    'get',
    '/api/masters/:id/copies.zip',
    'All copies of a master as they were written, in a zip archive with a list of which is which and how each stands',
    null,
    z.unknown(),
    [],
    { answers: FILE_TYPE },
  ),
  copyPicture: route(
    'get',
    '/api/copies/:id/picture',
    'The bytes of a copy as written, of a format that browsers show as a picture',
    null,
    z.unknown(),
    [],
    { answers: 'image/*' },
  ),
  work: route('get', '/api/work', 'Jobs that are under way or wait, those under way first; at most 100 of them', null, AtWork),
  cancel: route('post', '/api/jobs/:id/cancel', 'Stops a job', null, Done),
} as const;

import { Choice, Patch, Resource, Scope, Solid } from '@inkwell-twin/core/shapes';
import * as z from 'zod';
import {
  CopyView,
  Desk,
  DeskRow,
  DraftView,
  Found,
  HouseView,
  Identified,
  KeptPictureView,
  Ladder,
  LinkView,
  MasterView,
  MatchView,
  NewerView,
  OutsideDescription,
  OlderView,
  RevisionView,
  ShelfFile,
  StandingView,
  StepBody,
  Summary,
  TargetView,
  LookView,
} from './shapes';

/** One route: where it is, what it takes, what it answers. Server, web and the OpenAPI document read the same line. */
export interface Contract<B extends z.ZodType = z.ZodType, R extends z.ZodType = z.ZodType> {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  /** Express style: `:name` for parameters. */
  readonly path: string;
  readonly summary: string;
  readonly body: B | null;
  readonly answer: R;
  /** Names of what may stand behind the question mark. */
  readonly query: readonly string[];
}

const route = <B extends z.ZodType, R extends z.ZodType>(
  method: Contract['method'],
  path: string,
  summary: string,
  body: B | null,
  answer: R,
  query: readonly string[] = [],
): Contract<B, R> => ({ method, path, summary, body, answer, query });

const Done = z.object({ done: z.literal(true) });
const Job = z.object({ job: z.string() });
export const RecipeBody = z.object({
  target: z.string().max(20),
  options: z.record(z.string().max(40), z.union([z.string().max(200), z.number(), z.boolean()])).default({}),
  scope: Scope.default({ of: 'boards', ids: [] }),
  choices: z.array(Choice).max(50).default([]),
});
export type RecipeBody = z.input<typeof RecipeBody>;
const LabelledBody = RecipeBody.extend({ label: z.string().trim().min(1).max(120) });

const Several = z.object({ masters: z.array(z.string().max(80)).min(1).max(500) });
/** Descriptions of masters and of the pictures that they link to: all of them, or some by what they are about. */
const Described = Several.extend({ about: z.array(z.string().max(80)).min(1).max(500).optional() });
const Failed = z.object({ failed: z.array(z.object({ master: z.string(), message: z.string() })) });
const Hash = z.string().regex(/^[0-9a-f]{64}$/, 'must be a hash of 64 digits');
const DraftState = z.object({ position: z.number(), hash: z.string() });
/** Who asks: an id that the browser keeps (and a name, percent-encoded). Needed wherever a draft is touched. */
export const PERSON_HEADER = 'x-inkwell-person';
export const NAME_HEADER = 'x-inkwell-name';
/** The window that asks, so that it is not told of what it did itself. */
export const TAB_HEADER = 'x-inkwell-tab';

/** Masters on one page of the Desk. */
export const DESK_PAGE = 24;
/** Largest file that can be brought in, bytes. */
export const BRING_IN_LIMIT = 64 * 1024 * 1024;

export const CONTRACTS = {
  health: route('get', '/api/health', 'Whether the server can work', null, z.object({ status: z.literal('ok') })),
  desk: route(
    'get',
    '/api/desk',
    'A page of masters and how their copies stand. ?after= the last page’s cursor, ?find= part of a title, owner, folder or keyword, ?state=aside what was set aside, ?state=thrown what was thrown away, ?order= and ?group= how they lie, ?verdict= those with a copy that stands so, ?keyword= and ?place= those with it or in it',
    null,
    Desk,
    ['after', 'find', 'state', 'order', 'group', 'verdict', 'keyword', 'place'],
  ),
  find: route(
    'get',
    '/api/find',
    'Masters, copies and revisions that are called something: every word of ?find= stands in the name',
    null,
    Found,
    ['find'],
  ),
  summary: route('get', '/api/summary', 'What asks for someone, over all masters', null, Summary),
  deskRow: route('get', '/api/desk/:id', 'One row of the Desk, of those that ?state= shows', null, DeskRow),
  targets: route('get', '/api/targets', 'Targets and their options', null, z.object({ targets: z.array(TargetView) })),
  newMaster: route(
    'post',
    '/api/masters',
    'A new master: empty, for a purpose, or begun from a template',
    z.object({
      /** Nothing for one that nobody has named yet. */
      title: z.string().trim().max(200),
      purpose: z.string().max(40),
      owner: z.string().max(200),
      /** What of the purpose is wished otherwise, mm. */
      width: z.number().positive().max(100_000).optional(),
      height: z.number().positive().max(100_000).optional(),
      unit: z.enum(['mm', 'cm', 'in', 'pt']).optional(),
      background: z
        .string()
        .regex(/^#[0-9a-f]{6}$/)
        .nullable()
        .optional(),
      /** Pixels per inch of copies in pixels; null for as it comes. */
      ppi: z.number().min(1).max(2400).nullable().optional(),
      profile: z.enum(['sRGB', 'Display P3']).optional(),
      /** A template to begin from, instead of a purpose. */
      template: z.string().max(80).optional(),
    }),
    z.object({ id: z.string() }),
  ),
  templates: route(
    'get',
    '/api/templates',
    'What new masters can be begun from',
    null,
    z.object({
      templates: z.array(z.object({ id: z.string(), name: z.string(), by: z.string(), picture: z.string().nullable() })),
    }),
  ),
  makeTemplate: route(
    'post',
    '/api/masters/:id/template',
    'Makes a template of a master as it is at its newest revision',
    z.object({ name: z.string().trim().min(1).max(200) }),
    z.object({ id: z.string() }),
  ),
  removeTemplate: route('delete', '/api/templates/:id', 'Takes a template away; what was begun from it stays', null, Done),
  bringIn: route(
    'post',
    '/api/bring-in',
    'A supplied file (the request body; name in ?name=) as a new master. Parts that it can’t hold become pictures of ?ppi=, or ?parts=left out; text in fonts that the file carries becomes outlines, or with ?fonts=nearest stays text',
    null,
    z.object({
      id: z.string(),
      title: z.string(),
      objects: z.number(),
      notUnderstood: z.array(z.object({ kind: z.string(), count: z.number() })),
      asPictures: z.number(),
      asOutlines: z.number(),
    }),
    ['name', 'ppi', 'parts', 'fonts', 'delimiter', 'decimal', 'dates', 'encoding', 'unit', 'up'],
  ),
  look: route(
    'post',
    '/api/look',
    'How a file (the request body; name in ?name=) would be read that says little of itself: what was found and its first rows; null for all others. ?delimiter=, ?decimal=, ?dates=, ?encoding=, ?unit=, ?up= decide. Keeps nothing',
    null,
    z.object({ look: LookView.nullable() }),
    ['name', 'delimiter', 'decimal', 'dates', 'encoding', 'unit', 'up'],
  ),
  identify: route(
    'post',
    '/api/identify',
    'What a file is (the request body; name in ?name=): a copy of ours, a master, an original, or something else. Keeps nothing',
    null,
    Identified,
    ['name'],
  ),
  matchFile: route(
    'post',
    '/api/identify/match',
    'A full comparison of a copy of ours (the request body; name in ?name=) with its master as it is now, packed as that of a copy on record is; the part of it in ?leaf=. Keeps nothing',
    null,
    MatchView,
    ['name', 'leaf'],
  ),
  master: route(
    'get',
    '/api/masters/:id',
    'A master with its revisions, copies and drafts; its document is a route of its own',
    null,
    MasterView,
  ),
  places: route(
    'get',
    '/api/shelf/places',
    'Folders of the shelf in which masters can lie, by their paths',
    null,
    z.object({ places: z.array(z.string()) }),
  ),
  standing: route(
    'get',
    '/api/masters/:id/standing',
    'What stands on the shelf where this master would go: ?place= folders with slashes between, ?name= its name; and the next name that is free',
    null,
    z.object({ standing: StandingView.nullable(), free: z.string() }),
    ['place', 'name'],
  ),
  move: route(
    'put',
    '/api/masters/:id/place',
    'Moves or renames a master on the shelf; its copies follow, or stay where they are. 409 where the name is taken',
    z.object({ place: z.string().max(600), name: z.string().max(200), copies: z.enum(['follow', 'stay']) }),
    z.object({ folder: z.string() }),
  ),
  throwAway: route(
    'post',
    '/api/masters/:id/throw-away',
    'Takes a master off the Desk; for 30 days it can be brought back. Its files on the shelf stay',
    null,
    Done,
  ),
  describe: route(
    'post',
    '/api/describe',
    'Says something of several masters at once: keywords added and taken off, caption, rights, owner. Each gets a revision where that changes it',
    z.object({
      masters: z.array(z.string().max(80)).min(1).max(500),
      add: z.array(z.string().max(64)).max(64).default([]),
      remove: z.array(z.string().max(64)).max(64).default([]),
      caption: z.string().max(5000).optional(),
      rights: z.string().max(1000).optional(),
      owner: z.string().max(200).optional(),
    }),
    z.object({
      changed: z.number(),
      failed: z.array(z.object({ master: z.string(), message: z.string() })),
    }),
  ),
  foundOnShelf: route(
    'get',
    '/api/shelf/found',
    'Native files on the shelf that belong to no master of the Desk, of whatever version',
    null,
    z.object({ found: z.array(OlderView) }),
  ),
  openFromShelf: route(
    'post',
    '/api/shelf/open',
    'Opens a native file of an older version that lies on the shelf; nothing there is touched until the first update',
    z.object({ path: z.string().min(1).max(800) }),
    z.object({ id: z.string() }),
  ),
  removeLeftovers: route(
    'post',
    '/api/masters/:id/leftovers/remove',
    'Takes the files of the older version away that a master was opened from, once one of now stands beside them; those changed since stay',
    null,
    z.object({ stayed: z.array(z.string()) }),
  ),
  outside: route(
    'get',
    '/api/masters/:id/outside',
    'What another program made of this master in its file on the shelf, and the revision that it began from',
    null,
    z.object({ base: z.number(), sha256: z.string(), document: z.record(z.string(), z.unknown()) }),
  ),
  settleOutside: route(
    'post',
    '/api/masters/:id/outside',
    'Says what becomes of the file on the shelf that another program changed: it was taken in, or is set aside',
    z.object({ sha256: Hash, way: z.enum(['taken', 'set aside']) }),
    Done,
  ),
  setAside: route('post', '/api/masters/:id/set-aside', 'Takes a master off the Desk; everything of it stays', null, Done),
  bringBack: route('post', '/api/masters/:id/bring-back', 'Puts a master back on the Desk', null, Done),
  deleteMaster: route(
    'delete',
    '/api/masters/:id',
    'Deletes the record of a master for good; its files on the shelf stay',
    null,
    Done,
  ),
  dismiss: route('delete', '/api/notices/:id', 'Takes a notice off', null, Done),
  revision: route(
    'get',
    '/api/masters/:id/revisions/:rev',
    'The document at a revision; 409 where the master has another life than ?life= by now',
    null,
    z.object({ document: z.record(z.string(), z.unknown()) }),
  ),
  another: route(
    'post',
    '/api/masters/:id/another',
    'Starts another master from this one, at a revision or at the newest; with or without the history. This one stays as it is',
    z.object({
      title: z.string().trim().min(1).max(200),
      owner: z.string().max(200),
      history: z.boolean(),
      rev: z.number().int().positive().optional(),
    }),
    z.object({ id: z.string() }),
  ),
  nodeHistory: route(
    'get',
    '/api/masters/:id/history/:node',
    'The revisions in which one object changed, with what changed in words, newest first',
    null,
    z.object({ revisions: z.array(RevisionView.extend({ how: z.string() })) }),
  ),
  nameRevision: route(
    'put',
    '/api/masters/:id/revisions/:rev/name',
    'Gives a revision a name, or none; what it was stays as it was',
    z.object({ name: z.string().max(120) }),
    Done,
  ),
  changes: route(
    'get',
    '/api/masters/:id/changes/:from/:to',
    'The patches that lead from a revision to a later one; null where they weigh more than the document would. 409 where the master has another life than ?life= by now',
    null,
    z.object({ patches: z.array(Patch).nullable() }),
  ),
  original: route('get', '/api/masters/:id/originals/:sha', 'The bytes of a supplied file, as they came', null, z.unknown()),
  house: route('get', '/api/house', 'The rules of the house, and who said them when', null, HouseView),
  sayHouse: route(
    'put',
    '/api/house',
    'Says the rules of the house anew. 409 where they are not those of the time `knows` any more',
    z.object({ rules: z.record(z.string(), z.unknown()), knows: z.string().max(40).nullable() }),
    HouseView,
  ),
  houseFile: route('get', '/api/house/file', 'The rules of the house as a file to take along', null, z.unknown()),
  wrongNames: route(
    'get',
    '/api/masters/:id/wrong-names',
    'Files of a master and its copies that are not called as the house writes names, and how they would be',
    null,
    z.object({
      names: z.array(z.object({ kind: z.enum(['master', 'copy']), id: z.string(), file: z.string(), proposed: z.string() })),
    }),
  ),
  outsideDescriptions: route(
    'get',
    '/api/descriptions',
    'Descriptions of masters that have a file outside, or are to have one; ?all= those in step, too',
    null,
    z.object({ descriptions: z.array(OutsideDescription) }),
    ['all'],
  ),
  writeDescriptions: route(
    'post',
    '/api/descriptions/write',
    'Writes the descriptions of masters out, each into a file beside it; none that someone changed is written over',
    Described,
    Failed,
  ),
  settleDescriptions: route(
    'post',
    '/api/descriptions/settle',
    'Settles descriptions that were changed outside: which side counts, field by field; where none is said, the side that changed, and ours where both did',
    Described.extend({
      choices: z
        .partialRecord(z.enum(['keywords', 'caption', 'rights', 'corrections']), z.enum(['inside', 'outside']))
        .default({}),
    }),
    Failed,
  ),
  orderDescriptions: route(
    'post',
    '/api/descriptions/order',
    'Says of masters whether every update writes their description out',
    Described.extend({ on: z.boolean() }),
    Failed,
  ),
  lookNewer: route(
    'post',
    '/api/look-newer',
    'A master that a newer version wrote (the request body), as far as it can be looked at. Keeps nothing',
    null,
    NewerView,
    ['name'],
  ),
  newerOnShelf: route(
    'post',
    '/api/shelf/look-newer',
    'The same for a file that lies on the shelf',
    z.object({ path: z.string().min(1).max(1000) }),
    NewerView,
  ),
  links: route(
    'post',
    '/api/masters/:id/links',
    'How linked files stand, as a master or a draft of it names them, and where the same bytes lie instead',
    z.object({
      links: z
        .array(z.object({ resource: z.string().max(80), link: z.string().max(500), size: z.number().int().nonnegative() }))
        .max(2000),
    }),
    z.object({ links: z.array(LinkView) }),
  ),
  linkable: route(
    'get',
    '/api/masters/:id/links/files',
    'Pictures on the shelf that a master can link to; those of the name ?name= first',
    null,
    z.object({ files: z.array(ShelfFile) }),
    ['name'],
  ),
  linkPicture: route(
    'post',
    '/api/masters/:id/links/take',
    'A picture on the shelf for a master, linked; a step of the draft says where it is shown',
    z.object({ path: z.string().min(1).max(1000) }),
    KeptPictureView,
  ),
  putOut: route(
    'post',
    '/api/masters/:id/links/out',
    'Puts a kept file on the shelf so that the master can link to it: at a link of it that leads nowhere, or in a folder of the master’s own. Nothing is written over',
    z.object({ resource: Hash, link: z.string().min(1).max(500).nullable() }),
    z.object({ link: z.string() }),
  ),
  package: route(
    'get',
    '/api/masters/:id/package',
    'The master as a file to take along: ?form=whole with all that it shows, or light, with its links as they are',
    null,
    z.unknown(),
    ['form'],
  ),
  addPicture: route(
    'post',
    '/api/masters/:id/pictures',
    'Keeps a picture (the request body; name in ?name=) with a master, byte for byte; a step of the draft puts it on a board',
    null,
    KeptPictureView,
    ['name'],
  ),
  picture: route(
    'get',
    '/api/pictures/:sha',
    'A kept picture as a PNG of at most ?most= pixels each way, turned as it asks for, in sRGB',
    null,
    z.unknown(),
    ['most'],
  ),
  addSteps: route(
    'post',
    '/api/masters/:id/draft/steps',
    'Adds steps to one’s draft, after `position`, where its journal has `hash`. 409 says what is there',
    z.object({
      base: z.number().int().positive(),
      position: z.number().int().nonnegative(),
      hash: Hash,
      steps: z.array(StepBody).min(1).max(500),
    }),
    DraftState,
  ),
  moveDraft: route(
    'put',
    '/api/masters/:id/draft/position',
    'Undo and redo: how many steps of one’s draft are done; `hash` is that of its journal there. 409 says what is there',
    z.object({ position: z.number().int().nonnegative(), hash: Hash }),
    DraftState,
  ),
  replaceDraft: route(
    'put',
    '/api/masters/:id/draft',
    'Puts steps that were carried over onto the head in the place of one’s draft, whose hash is `replaces`. 409 says what is there',
    z.object({ base: z.number().int().positive(), replaces: Hash, steps: z.array(StepBody).max(20_000) }),
    DraftState,
  ),
  here: route(
    'put',
    '/api/streams/:stream',
    'Says which master each window of a browser looks at (none on the Desk), which listens by GET /api/events?stream=. 404 where it does not',
    z.object({ windows: z.array(z.object({ tab: z.string().max(64), master: z.string().max(200) })).max(200) }),
    Done,
  ),
  draft: route('get', '/api/masters/:id/draft', 'One’s draft', null, z.object({ draft: DraftView.nullable() })),
  discardDraft: route('delete', '/api/masters/:id/draft', 'Throws one’s draft away', null, Done),
  update: route(
    'post',
    '/api/masters/:id/update',
    'Writes one’s draft as the next revision. 409 says what is there',
    z.object({
      base: z.number().int().positive(),
      position: z.number().int().positive(),
      hash: Hash,
      message: z.string().max(1000),
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
  match: route(
    'get',
    '/api/copies/:id/match',
    'A full comparison with both sides, packed: the length of the head (4 bytes, little-endian), the head as JSON, then what each part of either side says, as `leafOfMatch` reads it',
    null,
    MatchView,
  ),
  solid: route(
    'post',
    '/api/masters/:id/solid',
    'A solid as it would be made, packed as comparisons are, as `readSolid` reads it: its triangles, what is measured of it, and what its parameters are worth. Boards, layers and symbols are those whose outlines it takes. Keeps nothing',
    z.object({
      solid: Solid,
      boards: z.array(z.unknown()).max(100).default([]),
      layers: z.array(z.unknown()).max(1000).default([]),
      symbols: z.array(z.unknown()).max(1000).default([]),
    }),
    z.unknown(),
  ),
  placed: route(
    'post',
    '/api/masters/:id/placed',
    'What items that show a text, a table, a chart or a solid draw, by their ids, each in its own axes. `rev` is the revision that the draft rests on; boards hold those items only, lists hold what the draft changed in them. Keeps nothing',
    z.object({
      rev: z.number().int().min(1),
      boards: z.array(z.object({ id: z.string().max(80), items: z.array(z.unknown()).max(2000) })).max(1000),
      tables: z.array(z.unknown()).max(1000).default([]),
      solids: z.array(z.unknown()).max(1000).default([]),
      texts: z.array(z.unknown()).max(1000).default([]),
      resources: z.array(Resource).max(1000).default([]),
    }),
    z.object({
      items: z.record(z.string(), z.array(z.unknown())),
      /** What can’t be drawn, and why. */
      wrong: z.record(z.string(), z.string()),
      /** By text: how many more frames like its last it would fill. */
      more: z.record(z.string(), z.number()),
    }),
  ),
  accept: route(
    'post',
    '/api/copies/:id/accept',
    'Accepts the differences until copy or master change again',
    z.object({ by: z.string().trim().min(1).max(200), reason: z.string().trim().min(1).max(500) }),
    z.object({ copy: CopyView }),
  ),
  withdraw: route('post', '/api/copies/:id/withdraw', 'Takes a copy out of the list; its file stays on the shelf', null, Done),
  file: route(
    'get',
    '/api/copies/:id/file',
    'The bytes of a copy as written; ?part= the name of a further file',
    null,
    z.unknown(),
    ['part'],
  ),
  cancel: route('post', '/api/jobs/:id/cancel', 'Stops a job', null, Done),
} as const;
export type Contracts = typeof CONTRACTS;
export type BodyOf<K extends keyof Contracts> = Contracts[K] extends Contract<infer B, z.ZodType> ? z.input<B> : never;
export type AnswerOf<K extends keyof Contracts> = Contracts[K] extends Contract<z.ZodType, infer R> ? z.infer<R> : never;

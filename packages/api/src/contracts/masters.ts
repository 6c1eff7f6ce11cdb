import * as z from 'zod';
import { MasterView, StandingView } from '../shapes';
import { Done } from './parts';
import { FILE_TYPE, PNG_TYPE, route } from './route';

/** Masters as a whole: begun, placed, put away. */
export const MASTERS = {
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
      width: z.number().min(0.1).max(100_000).optional(),
      height: z.number().min(0.1).max(100_000).optional(),
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
  templates: route(
    'get',
    '/api/templates',
    'What new masters can be begun from',
    null,
    z.object({
      templates: z.array(z.object({ id: z.string(), name: z.string(), by: z.string(), picture: z.string().nullable() })),
    }),
  ),
  templatePicture: route('get', '/api/templates/:id/picture.png', 'A picture of a template', null, z.unknown(), [], {
    answers: PNG_TYPE,
  }),
  thumbnail: route('get', '/api/masters/:id/picture.png', 'A small picture of a master as it is now', null, z.unknown(), [], {
    answers: PNG_TYPE,
  }),
  makeTemplate: route(
    'post',
    '/api/masters/:id/template',
    'Makes a template of a master as it is at its newest revision',
    z.object({ name: z.string().trim().min(1).max(200) }),
    z.object({ id: z.string() }),
  ),
  removeTemplate: route('delete', '/api/templates/:id', 'Takes a template away; what was begun from it stays', null, Done),
  master: route(
    'get',
    '/api/masters/:id',
    'A master with its revisions, copies and drafts; its document is a route of its own',
    null,
    MasterView,
  ),
  standing: route(
    'get',
    '/api/masters/:id/standing',
    'What stands on the shelf where this master would go: ?place= folders with slashes between, ?name= its name; and the next name that is free',
    null,
    z.object({ standing: StandingView.nullable(), free: z.string() }),
    ['place', 'name'],
  ),
  places: route(
    'get',
    '/api/shelf/places',
    'Folders of the shelf in which masters can lie, by their paths',
    null,
    z.object({ places: z.array(z.string()) }),
  ),
  move: route(
    'put',
    '/api/masters/:id/place',
    'Moves or renames a master on the shelf; its copies follow, or stay where they are. 409 where the name is taken',
    z.object({ place: z.string().max(600), name: z.string().max(200), copies: z.enum(['follow', 'stay']) }),
    z.object({ folder: z.string() }),
  ),
  setAside: route('post', '/api/masters/:id/set-aside', 'Takes a master off the Desk; everything of it stays', null, Done),
  bringBack: route('post', '/api/masters/:id/bring-back', 'Puts a master back on the Desk', null, Done),
  throwAway: route(
    'post',
    '/api/masters/:id/throw-away',
    'Takes a master off the Desk; for 30 days it can be brought back. Its files on the shelf stay',
    null,
    Done,
  ),
  deleteMaster: route(
    'delete',
    '/api/masters/:id',
    'Deletes the record of a master for good; its files on the shelf stay',
    null,
    Done,
  ),
  original: route('get', '/api/masters/:id/originals/:sha', 'The bytes of a supplied file, as they came', null, z.unknown(), [], {
    answers: FILE_TYPE,
  }),
  package: route(
    'get',
    '/api/masters/:id/package',
    'The master as a file to take along: ?form=whole with all that it shows, or light, with its links as they are',
    null,
    z.unknown(),
    ['form'],
    { answers: FILE_TYPE },
  ),
} as const;

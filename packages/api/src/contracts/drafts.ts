import { Resource, Solid } from '@inkwell-twin/core/shapes';
import * as z from 'zod';
import { DraftView, StepBody } from '../shapes';
import { Done, DraftState, Hash } from './parts';
import { FILE_TYPE, route } from './route';

/** Drafts, and what is drawn of them. */
export const DRAFTS = {
  draft: route('get', '/api/masters/:id/draft', 'One’s draft', null, z.object({ draft: DraftView.nullable() })),
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
  events: route(
    'get',
    '/api/events',
    'What happens here, as it happens, each as JSON; ?stream= a name by which the browser then says where its windows are',
    null,
    z.unknown(),
    ['stream'],
    { answers: 'text/event-stream' },
  ),
  here: route(
    'put',
    '/api/streams/:stream',
    'Says which master each window of a browser looks at (none on the Desk), which listens by GET /api/events?stream=. 404 where it does not',
    z.object({ windows: z.array(z.object({ tab: z.string().max(64), master: z.string().max(200) })).max(200) }),
    Done,
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
    [],
    { answers: FILE_TYPE },
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
} as const;

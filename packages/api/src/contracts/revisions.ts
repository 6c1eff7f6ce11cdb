import { Patch } from '@inkwell-twin/core/shapes';
import * as z from 'zod';
import { RevisionView } from '../shapes';
import { Done } from './parts';
import { route } from './route';

/** What a master was. */
export const REVISIONS = {
  revision: route(
    'get',
    '/api/masters/:id/revisions/:rev',
    'The document at a revision; 409 where the master has another life than ?life= by now',
    null,
    z.object({ document: z.record(z.string(), z.unknown()) }),
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
} as const;

import * as z from 'zod';
import { Desk, DeskRow, Found, Summary } from '../shapes';
import { Done } from './parts';
import { route } from './route';

/** The Desk and what asks for someone. */
export const DESK = {
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
  dismiss: route('delete', '/api/notices/:id', 'Takes a notice off', null, Done),
} as const;

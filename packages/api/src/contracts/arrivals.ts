import * as z from 'zod';
import { Identified, LookView, MatchView, NewerView, OlderView } from '../shapes';
import { Done, Hash } from './parts';
import { FILE_TYPE, route } from './route';

/** Files that come in, and what stands on the shelf that nobody knows. */
export const ARRIVALS = {
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
    { takes: FILE_TYPE },
  ),
  look: route(
    'post',
    '/api/look',
    'How a file (the request body; name in ?name=) would be read that says little of itself: what was found and its first rows; null for all others. ?delimiter=, ?decimal=, ?dates=, ?encoding=, ?unit=, ?up= decide. Keeps nothing',
    null,
    z.object({ look: LookView.nullable() }),
    ['name', 'delimiter', 'decimal', 'dates', 'encoding', 'unit', 'up'],
    { takes: FILE_TYPE },
  ),
  lookNewer: route(
    'post',
    '/api/look-newer',
    'A master that a newer version wrote (the request body), as far as it can be looked at. Keeps nothing',
    null,
    NewerView,
    ['name'],
    { takes: FILE_TYPE },
  ),
  newerOnShelf: route(
    'post',
    '/api/shelf/look-newer',
    'The same for a file that lies on the shelf',
    z.object({ path: z.string().min(1).max(1000) }),
    NewerView,
  ),
  identify: route(
    'post',
    '/api/identify',
    'What a file is (the request body; name in ?name=): a copy of ours, a master, an original, or something else. Keeps nothing',
    null,
    Identified,
    ['name'],
    { takes: FILE_TYPE },
  ),
  matchFile: route(
    'post',
    '/api/identify/match',
    'A full comparison of a copy of ours (the request body; name in ?name=) with its master as it is now, packed as that of a copy on record is; the part of it in ?leaf=. Keeps nothing',
    null,
    MatchView,
    ['name', 'leaf'],
    { takes: FILE_TYPE, answers: FILE_TYPE },
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
} as const;

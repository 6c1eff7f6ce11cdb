import type { StandingView } from '@inkwell-twin/api';
import { Failure, nameTrouble, placeOf } from '@inkwell-twin/core';
import { type Database, type Queryable, lockInTransaction } from '../database/database';
import type { Shelf } from './shelf';

/** Where a master goes: its place, the name of its folder and file, and whether its copies come along. */
export interface Move {
  readonly place: string;
  readonly name: string;
  readonly copies: 'follow' | 'stay';
}

const pathOf = (place: readonly string[], name: string): string => [...place, name].join('/');

/** Who else lies in, at or around a path of the shelf. */
async function neighbours(
  client: Queryable,
  path: string,
  except: string,
): Promise<{ id: string; title: string; folder: string }[]> {
  const { rows } = await client.query<{ id: string; title: string; folder: string }>(
    `select id, title, folder from
       (select id, title, folder from master
        union select master.id, title, recipe.folder from recipe join master on master.id = recipe.master where recipe.folder is not null
        union select master.id, title, target from shelf_move join master on master.id = shelf_move.master) as there
      where id <> $2 and (lower(folder) = lower($1) or starts_with(lower($1), lower(folder) || '/')
                       or starts_with(lower(folder), lower($1) || '/'))`,
    [path, except],
  );
  return rows;
}

/** What stands where a master wants to go, or null. */
export async function standingAt(
  client: Queryable,
  shelf: Shelf,
  place: readonly string[],
  name: string,
  except = '',
): Promise<StandingView | null> {
  const path = pathOf(place, name);
  const [other] = await neighbours(client, path, except);
  const same = shelf.namesake(place.join('/'), name);
  const own = except && (await client.query<{ folder: string }>('select folder from master where id = $1', [except])).rows[0];
  if (!other && own && same && own.folder === pathOf(place, same)) return null;
  if (!other && same && (await isOwnLeft(client, except, pathOf(place, same)))) return null;
  if (!other && !same) return null;
  const stat = shelf.sizeAndTime(same ? pathOf(place, same) : (other?.folder ?? path));
  const about = { size: stat?.size ?? 0, time: stat?.time ?? '' };
  if (!other) return { what: stat?.folder ? 'folder' : 'file', name: same!, ...about, master: null };
  const { rows } = await client.query<{ head: number; picture: number | null }>(
    'select head, picture.rev as picture from master left join picture on picture.master = master.id where id = $1',
    [other.id],
  );
  const { head, picture } = rows[0]!;
  return {
    what: 'master',
    name: other.folder,
    ...about,
    master: {
      id: other.id,
      title: other.title,
      head,
      picture: picture === null ? null : `/api/masters/${encodeURIComponent(other.id)}/picture.png?rev=${picture}`,
    },
  };
}

/** Whether copies of a master lie there that stayed when it moved on: it may come back. */
async function isOwnLeft(client: Queryable, master: string, folder: string): Promise<boolean> {
  const { rowCount } = await client.query('select from recipe where master = $1 and folder = $2', [master, folder]);
  return !!rowCount;
}

/** A free name in a place, the wanted one or the next. */
export async function freeNameAt(
  client: Queryable,
  shelf: Shelf,
  place: readonly string[],
  name: string,
  except: string,
): Promise<string> {
  for (let i = 1; ; i++) {
    const tried = i === 1 ? name : `${name}_${i}`;
    if (!(await standingAt(client, shelf, place, tried, except))) return tried;
  }
}

/**
 * Moves a master on the shelf. What is to happen is on record before anything moves, so that a start after a crash ends it.
 * @returns the folder that it has now
 * @throws Failure `name-unsafe`, `name-taken` that says what stands there, `not-found`
 */
export async function moveMaster(
  database: Database,
  shelf: Shelf,
  master: string,
  { place, name, copies }: Move,
): Promise<string> {
  const parts = placeOf(place);
  const trouble = name.includes('/') ? `“${name}” holds a slash` : nameTrouble(name);
  if (trouble) throw new Failure('name-unsafe', `That can’t be a name on the shelf: ${trouble}. Nothing was moved.`);
  const target = pathOf(parts, name);
  await database.transaction(async (client) => {
    await lockInTransaction(client, 'folders');
    const { rows } = await client.query<{ folder: string }>('select folder from master where id = $1 for update', [master]);
    if (!rows[0]) throw new Failure('not-found', 'There is no such master on this Desk.');
    const source = rows[0].folder;
    if (source === target) return;
    if (`${target}/`.startsWith(`${source}/`))
      throw new Failure(
        'name-unsafe',
        `“${target}” lies within the master’s own folder. Choose a place beside it. Nothing was moved.`,
      );
    const standing = await standingAt(client, shelf, parts, name, master);
    if (standing)
      throw new Failure(
        'name-taken',
        `${inWords(standing)} stands at “${target}” already. Nothing was moved; choose another name or place.`,
      );
    await client.query(
      `insert into shelf_move (master, source, target, follow) values ($1, $2, $3, $4)
       on conflict (master) do nothing`,
      // Into a folder that is there already nothing can be moved but the file itself.
      [master, source, target, copies === 'follow' && !(await isOwnLeft(client, master, target))],
    );
  });
  await endOrDrop(database, shelf, master);
  const [now] = await database.rows<{ folder: string }>('select folder from master where id = $1', [master]);
  return now!.folder;
}

const inWords = ({ what, master }: StandingView): string =>
  master ? `“${master.title}” at r${master.head}` : what === 'folder' ? 'A folder' : 'A file';

/** Does what a move on record says, as far as it was not done, and takes it off the record. */
async function endMove(database: Database, shelf: Shelf, master: string): Promise<void> {
  await database.transaction(async (client) => {
    await lockInTransaction(client, `shelf of ${master}`);
    const { rows } = await client.query<{ source: string; target: string; follow: boolean }>(
      'delete from shelf_move where master = $1 returning source, target, follow',
      [master],
    );
    const move = rows[0];
    if (!move) return;
    shelf.move(move.source, move.target, move.follow);
    if (!move.follow)
      await client.query('update recipe set folder = $2 where master = $1 and folder is null', [master, move.source]);
    // Copies that had stayed and are met again lie beside their master as before.
    await client.query('update recipe set folder = null where master = $1 and folder = $2', [master, move.target]);
    await client.query('update master set folder = $2 where id = $1', [master, move.target]);
  });
}

/** Ends a move; one that can't even begin, because a link or a file stands in its way, is taken off the record. @throws Failure */
async function endOrDrop(database: Database, shelf: Shelf, master: string): Promise<void> {
  try {
    await endMove(database, shelf, master);
  } catch (error) {
    const [move] = await database.rows<{ source: string }>('select source from shelf_move where master = $1', [master]);
    if (move && shelf.sizeAndTime(move.source)) await database.query('delete from shelf_move where master = $1', [master]);
    throw error;
  }
}

/** Ends all moves that were cut short. @param log hears of those that can't be ended */
export async function endMoves(database: Database, shelf: Shelf, log: (what: string, error: unknown) => void): Promise<void> {
  for (const { master } of await database.rows<{ master: string }>('select master from shelf_move'))
    await endOrDrop(database, shelf, master).catch((error) => log('move', error));
}

/** Folders of the shelf that belong to no master: the places where one can lie. */
export async function placesOf(database: Database, shelf: Shelf): Promise<string[]> {
  const rows = await database.rows<{ folder: string }>(
    'select folder from master union select folder from recipe where folder is not null',
  );
  const taken = new Set(rows.map(({ folder }) => folder));
  const isWithin = (path: string): boolean => path.split('/').some((_, i, all) => taken.has(all.slice(0, i + 1).join('/')));
  return shelf.folders().filter((path) => !isWithin(path));
}

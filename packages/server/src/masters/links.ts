import type { LinkView, ShelfFile } from '@inkwell-twin/api';
import {
  Failure,
  type LinkState,
  type Resource,
  asFailure,
  digest,
  fileName,
  freeName,
  linkPlaces,
  linkTo,
  linkedIn,
  resourceOfPicture,
  sizeOfPicture,
} from '@inkwell-twin/core';
import { readBlob } from '../blobs/blobs';
import type { Engine } from '../compute/engine';
import { type Queryable, lockInTransaction } from '../database/database';
import type { Shelf } from '../shelf/shelf';
import { type KeptPicture, keepOriginal } from './keep';
import { notUnderstoodIn } from './picture-notes';

/** A linked file as a master or a draft of it names it. */
export interface Linked {
  readonly resource: string;
  readonly link: string;
  readonly size: number;
}

/** Most files on the shelf that a list shows. */
const MOST_LISTED = 300;
/** What can stand on a board, by the end of its name. */
const PICTURES = /\.(png|jpe?g|tiff?|webp|gif|avif|svg|bmp)$/i;

interface LinkedFile {
  readonly state: LinkState;
  readonly path: string;
  readonly words: string;
  readonly bytes?: Buffer;
}

/** Folder and file of a path on the shelf. @throws Failure `link-invalid` for a file that is in no folder */
function placed(path: string): { folder: string; file: string } {
  const at = path.lastIndexOf('/');
  if (at <= 0)
    throw new Failure('link-invalid', `“${path}” lies in no folder of the shelf. Put it into one, so that it can be linked.`);
  return { folder: path.slice(0, at), file: path.slice(at + 1) };
}

/** Looks for one linked file: what it was last seen as counts more than what lies nearer. */
export function lookFor(shelf: Shelf, folder: string, { resource, link }: Linked): LinkedFile {
  let other: LinkedFile | null = null;
  for (const path of linkPlaces(folder, link).filter((one) => one.includes('/'))) {
    const at = placed(path);
    try {
      const standing = shelf.look(at.folder, at.file);
      if (standing.kind === 'nothing') continue;
      if (standing.kind === 'file' && digest(standing.bytes) === resource)
        return { state: 'here', path, words: 'as it was last seen', bytes: standing.bytes };
      other ??=
        standing.kind === 'file'
          ? { state: 'changed', path, words: 'has changed since it was last seen', bytes: standing.bytes }
          : { state: 'not a file', path, words: standing.words };
    } catch (error) {
      other ??= { state: 'not a file', path, words: asFailure(error).message };
    }
  }
  return other ?? { state: 'missing', path: link, words: 'is not on the shelf' };
}

async function folderOf(client: Queryable, master: string): Promise<string> {
  const { rows } = await client.query<{ folder: string }>('select folder from master where id = $1', [master]);
  if (!rows[0]) throw new Failure('not-found', 'There is no such master on this Desk.');
  return rows[0].folder;
}

/** Files on the shelf of a size, by their paths. */
function* filesOn(shelf: Shelf, size?: number): Generator<{ path: string; size: number; time: string }> {
  for (const folder of shelf.folders())
    for (const file of shelf.files(folder)) {
      const path = `${folder}/${file}`;
      const known = shelf.sizeAndTime(path);
      if (known && !known.folder && (size === undefined || known.size === size))
        yield { path, size: known.size, time: known.time };
    }
}

/** Where the same bytes lie on the shelf, at most three places. */
function elsewhere(shelf: Shelf, { resource, size }: Linked): string[] {
  const found: string[] = [];
  for (const { path } of filesOn(shelf, size)) {
    const { folder, file } = placed(path);
    const bytes = shelf.read(folder, file);
    if (bytes && digest(bytes) === resource) found.push(path);
    if (found.length === 3) break;
  }
  return found;
}

/** How linked files stand, and for those that are not where they should be, where the same bytes lie instead. */
export async function lookAtLinks(engine: Engine, master: string, links: readonly Linked[]): Promise<LinkView[]> {
  const { database, shelf } = engine;
  const folder = await folderOf(database, master);
  const views: LinkView[] = [];
  for (const linked of links) {
    const { state, path, words, bytes } = lookFor(shelf, folder, linked);
    const kept = await database.rows('select from original where sha256 = $1 limit 1', [linked.resource]);
    views.push({
      resource: linked.resource,
      state,
      path,
      words,
      kept: kept.length > 0,
      size: bytes?.length ?? null,
      elsewhere: state === 'here' ? [] : elsewhere(shelf, linked).filter((one) => one !== path),
    });
  }
  return views;
}

/**
 * Finds again how the linked files of a master's head stand, and keeps what can be read of them as it was last seen.
 * @returns whether that is news
 */
export async function standLinks(engine: Engine, master: string): Promise<boolean> {
  const { database, shelf, masters } = engine;
  const { head } = await masters.load(master);
  const links = linkedIn(head.master);
  const before = await database.rows<{ resource: string; link: string; state: string }>(
    'select resource, link, state from link where master = $1 order by resource',
    [master],
  );
  if (!links.length && !before.length) return false;
  const folder = await folderOf(database, master);
  const now: { resource: string; link: string; state: string; file: string }[] = [];
  for (const { id, link, size, name, mediaType } of links) {
    const { state, bytes } = lookFor(shelf, folder, { resource: id, link, size });
    now.push({ resource: id, link, state, file: link.slice(link.lastIndexOf('/') + 1) });
    if (state === 'here')
      await database.transaction((client) => keepOriginal(client, master, { bytes: bytes!, name, mediaType }));
  }
  now.sort((a, b) => (a.resource < b.resource ? -1 : 1));
  const said = (rows: readonly { resource: string; link: string; state: string }[]): string =>
    rows.map(({ resource, link, state }) => `${resource} ${state} ${link}`).join('\n');
  if (said(before) === said(now)) return false;
  await database.transaction(async (client) => {
    await client.query('delete from link where master = $1', [master]);
    for (const { resource, link, file, state } of now)
      await client.query(
        'insert into link (master, resource, link, file, state) values ($1, $2, $3, $4, $5) on conflict do nothing',
        [master, resource, link, file, state],
      );
  });
  return true;
}

/** Pictures on the shelf that a master can link to, those of the same name first. */
export function linkable({ shelf }: Engine, name: string): ShelfFile[] {
  const wanted = name.toLowerCase();
  const rank = ({ path }: ShelfFile): number => (placed(path).file.toLowerCase() === wanted ? 0 : 1);
  const found: ShelfFile[] = [];
  for (const one of filesOn(shelf)) if (PICTURES.test(one.path)) found.push(one);
  return found.sort((a, b) => rank(a) - rank(b) || a.path.localeCompare(b.path)).slice(0, MOST_LISTED);
}

/** A picture on the shelf for an open master, linked: its bytes as they are now are kept too, so that every revision can be shown. */
export async function linkPicture({ database, shelf, services }: Engine, master: string, path: string): Promise<KeptPicture> {
  const { folder, file } = placed(path);
  const standing = shelf.look(folder, file);
  if (standing.kind !== 'file')
    throw new Failure(
      'link-invalid',
      `${path} can’t be linked: ${standing.kind === 'nothing' ? 'nothing is there' : standing.words}.`,
      {
        file: path,
      },
    );
  const facts = await services.pictures!.facts(standing.bytes);
  await services.pictures!.thumbnail(standing.bytes, 64);
  const link = linkTo(await folderOf(database, master), path);
  const resource: Resource = { ...resourceOfPicture(standing.bytes, file, facts), link };
  await database.transaction((client) => keepOriginal(client, master, { ...resource, bytes: standing.bytes }));
  return {
    resource,
    ...sizeOfPicture(facts),
    notUnderstood: [...(await notUnderstoodIn(standing.bytes, file, facts, services))],
  };
}

/**
 * Puts a kept file on the shelf, for a master that is to link to it: where it is to lie, or in a folder of the master's own.
 * Nothing that stands there is touched.
 * @returns how the master names it
 */
export async function putOut(engine: Engine, master: string, sha: string, link: string | null): Promise<string> {
  const { database, shelf } = engine;
  return database.transaction(async (client) => {
    // One after the other: two at once would find the same name free.
    await lockInTransaction(client, 'linked files');
    const folder = await folderOf(client, master);
    const { rows } = await client.query<{ name: string }>(
      'select name from original where sha256 = $1 order by master = $2 desc limit 1',
      [sha, master],
    );
    if (!rows[0]) throw new Failure('not-found', 'This master keeps no such file.');
    const bytes = await readBlob(client, sha);
    const put = (path: string): string => {
      const at = placed(path);
      if (shelf.look(at.folder, at.file).kind !== 'nothing')
        throw new Failure('name-taken', `Something stands at ${path} by now; nothing was written. Look at it first.`, {
          file: path,
        });
      shelf.put(at.folder, at.file, bytes, () => false);
      return path;
    };
    if (link !== null) {
      put(
        linkPlaces(folder, link)
          .filter((one) => one.includes('/'))
          .at(-1)!,
      );
      return link;
    }
    const place = `${folder}/linked`;
    const { name } = rows[0];
    const dot = name.lastIndexOf('.');
    const [stem, ending] = dot > 0 ? [name.slice(0, dot), name.slice(dot + 1)] : [name, 'bin'];
    return linkTo(folder, put(`${place}/${freeName(fileName('{title}', { title: stem }, ending), shelf.files(place))}`));
  });
}

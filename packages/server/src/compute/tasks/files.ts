import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import type { Identified, NewerView, StandingView } from '@inkwell-twin/api';
import { Failure, type ImportPreview, type PartWishes, lookAt, nameTrouble, placeOf } from '@inkwell-twin/core';
import { type DemoPart, demoMasters } from '@inkwell-twin/demo';
import { identify as identifyFile, matchFile as matchOfFile } from '../../identify/identify';
import { packMatch } from '../../copies/match-wire';
import { type BroughtIn, type KeptPicture, bringInFile, keepPicture } from '../../masters/keep';
import { newerOnShelf as newerAt, viewOfNewer } from '../../masters/newer';
import { foundOnShelf as lookForOlder, openFromShelf as openOlder, removeLeftovers as clearLeftovers } from '../../masters/older';
import { loadDemoMaster, putOlderMaster } from '../../setup/load-demo';
import { type ChangedOnShelf, changedOnShelf } from '../../shelf/changed';
import { type Move, freeNameAt, moveMaster, placesOf, standingAt } from '../../shelf/moves';
import type { Engine } from '../engine';

/** A file that came in, where it lies until it is dealt with. */
interface Uploaded {
  readonly path: string;
  readonly name: string;
}

export const identify = (engine: Engine, { path, name }: Uploaded): Promise<Identified> =>
  identifyFile(engine, readFileSync(path), name);

/** A full comparison of a file with its master, packed and compressed. */
export async function matchFile(engine: Engine, { path, name, leaf }: Uploaded & { leaf: number }): Promise<Uint8Array> {
  const { view, bodies } = await matchOfFile(engine, readFileSync(path), name, leaf);
  return gzipSync(packMatch(view, bodies), { level: 1 });
}

export const bringIn = (engine: Engine, { path, name, wishes }: Uploaded & { wishes: PartWishes }): Promise<BroughtIn> =>
  bringInFile(engine, readFileSync(path), name, wishes);

/** How a file would be read, for a person to confirm. */
export const look = (_engine: Engine, { path, name, wishes }: Uploaded & { wishes: PartWishes }): Promise<ImportPreview | null> =>
  lookAt(readFileSync(path), name, wishes);

export const addPicture = (engine: Engine, { path, name, master }: Uploaded & { master: string }): Promise<KeptPicture> =>
  keepPicture(engine, master, readFileSync(path), name);

/** A kept picture made small, as a PNG. */
export async function thumbnail({ services }: Engine, { sha, most }: { sha: string; most: number }): Promise<Uint8Array> {
  const pictures = services.pictures!;
  return pictures.png(await pictures.thumbnail(await services.resource!(sha), most));
}

/**
 * A part of the demo, into a Desk that has never had one and has nothing else; one that was cut short is loaded again. Drawings
 * come first; the pictures take longer and follow while one looks at those.
 */
export async function loadDemo(engine: Engine, { part }: { part: DemoPart }): Promise<void> {
  const { database } = engine;
  const name = part === 'drawings' ? 'demo' : `demo ${part}`;
  const [row] = await database.rows<{ state: string | null; first: string | null; masters: number }>(
    `select (select value from setting where name = $1) as state, (select value from setting where name = 'demo') as first,
      (select count(*)::integer from master) as masters`,
    [name],
  );
  const keep = (state: string) =>
    database.query('insert into setting (name, value) values ($1, $2) on conflict (name) do update set value = $2', [
      name,
      state,
    ]);
  if (row!.state === 'loaded') return;
  const taken = part === 'drawings' ? row!.masters > 0 : row!.first !== 'loaded';
  if (row!.state === null && taken) return void (await keep('loaded'));
  await keep('begun');
  for (const demo of await demoMasters(engine.services, [part])) await loadDemoMaster(engine, demo);
  // One that nobody has opened yet since an older version, where its folder is.
  if (part === 'pictures') putOlderMaster(engine);
  await keep('loaded');
}

/** What changed on the shelf while nobody looked, master by master. */
export const changed = (engine: Engine, _input: object): Promise<ChangedOnShelf> => changedOnShelf(engine);

/** Size, time and number of files on the shelf, to tell whether they are still the ones that were checked. */
export const stamps = ({ shelf }: Engine, { folder, files }: { folder: string; files: string[] }): string =>
  shelf.stamps(folder, files);

/** Names in a master's folder on the shelf. */
export const folder = ({ shelf }: Engine, { folder: name }: { folder: string }): string[] => shelf.files(name);

/** Folders in which masters can lie. */
export const places = ({ database, shelf }: Engine, _input: object): Promise<string[]> => placesOf(database, shelf);

/** What stands where a master would go, and a name that is free there. */
export async function standing(
  { database, shelf }: Engine,
  { master, place, name }: { master: string; place: string; name: string },
): Promise<{ standing: StandingView | null; free: string }> {
  const parts = placeOf(place);
  const trouble = nameTrouble(name);
  if (trouble) throw new Failure('name-unsafe', `That can’t be a name on the shelf: ${trouble}.`);
  return {
    standing: await standingAt(database, shelf, parts, name, master),
    free: await freeNameAt(database, shelf, parts, name, master),
  };
}

export const move = ({ database, shelf }: Engine, { master, ...wish }: Move & { master: string }): Promise<string> =>
  moveMaster(database, shelf, master, wish);

export const lookNewer = (engine: Engine, { path }: Uploaded): Promise<NewerView> => viewOfNewer(engine, readFileSync(path));
export const newerOnShelf = (engine: Engine, { path }: { path: string }): Promise<NewerView> => newerAt(engine, path);

export const foundOnShelf = (engine: Engine, _input: object) => lookForOlder(engine);
export const openFromShelf = (engine: Engine, { path }: { path: string }): Promise<string> => openOlder(engine, path);
export const removeLeftovers = (engine: Engine, { master }: { master: string }): Promise<string[]> =>
  clearLeftovers(engine, master);

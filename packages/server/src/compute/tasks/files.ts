import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import type { Identified, NewerView, StandingView } from '@inkwell-twin/api';
import { Failure, type ImportPreview, type PartWishes, lookAt, nameTrouble, placeOf } from '@inkwell-twin/core';
import type { DemoPart } from '@inkwell-twin/demo';
import { identify as identifyFile, jobForShowing, matchFile as matchOfFile } from '../../identify/identify';
import { packMatch } from '../../copies/match-wire';
import { type BroughtIn, type KeptPicture, bringInFile, keepPicture } from '../../masters/keep';
import { namedObjects } from '../../masters/store';
import { newerOnShelf as newerAt, viewOfNewer } from '../../masters/newer';
import { foundOnShelf as lookForOlder, openFromShelf as openOlder, removeLeftovers as clearLeftovers } from '../../masters/older';
import { loadDemoPart } from '../../setup/load-demo';
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
export async function matchFile(
  engine: Engine,
  { path, name, leaf, copy }: Uploaded & { leaf: number; copy: string },
): Promise<Uint8Array> {
  const { view, bodies } = await matchOfFile(engine, readFileSync(path), name, leaf, copy);
  return gzipSync(packMatch(view, bodies), { level: 1 });
}

/** What a machine does with a file, packed and compressed. */
export const lookAtJob = async (engine: Engine, { path, name, machine }: Uploaded & { machine: string }): Promise<Uint8Array> =>
  gzipSync(await jobForShowing(engine, readFileSync(path), name, machine), { level: 1 });

/** Puts a file in the place of a copy. */
export const attach = async ({ copies }: Engine, { path, name, copy }: Uploaded & { copy: string }): Promise<void> =>
  copies.attach(copy, readFileSync(path), name);

export const bringIn = (
  engine: Engine,
  { path, name, owner, wishes }: Uploaded & { owner: string; wishes: PartWishes },
): Promise<BroughtIn> => bringInFile(engine, readFileSync(path), name, owner, wishes);

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

/** Loads a part of the demo, or what of it is not there yet. */
export const loadDemo = (engine: Engine, { part }: { part: DemoPart }): Promise<void> => loadDemoPart(engine, part);

/** Writes down what objects are called, of a master from before that was done. */
export async function nameObjects({ database, masters }: Engine, { master }: { master: string }): Promise<void> {
  const { head } = await masters.load(master);
  await database.query('update master set object_names = $2 where id = $1 and object_names is null and head = $3', [
    master,
    JSON.stringify(namedObjects(head.master)),
    head.rev,
  ]);
}

/** What changed on the shelf while nobody looked, master by master. */
export const changed = (engine: Engine, _input: object): Promise<ChangedOnShelf> => changedOnShelf(engine);

/** Size, time and number of files on the shelf, to tell whether they are still the ones that were checked. */
export const stamps = ({ shelf }: Engine, { folder, files }: { folder: string; files: string[] }): string =>
  shelf.stamps(folder, files);

/** Names in a master's folder on the shelf, and size and time of one of them, where it is there. */
export const folder = (
  { shelf }: Engine,
  { folder: name, file }: { folder: string; file: string },
): { files: string[]; about: { size: number; time: string } | null } => ({
  files: shelf.files(name),
  about: shelf.sizeAndTime(`${name}/${file}`),
});

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

import { existsSync, readFileSync, readdirSync, realpathSync, statSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import {
  Failure,
  type LinkState,
  addFormats,
  addSources,
  type MaybePromise,
  type Services,
  type NativePackage,
  PARTS_ENDING,
  type ProjectFiles,
  asFailure,
  digest,
  isIndexName,
  isNativeCopy,
  linkPlaces,
  linkedIn,
  openProject,
  readPackage,
} from '@inkwell-twin/core';
import { nodeFormats, pictureEngine, pictureSources, shippedFonts, solidEngine, chartEngine } from '@inkwell-twin/render';

addFormats(nodeFormats);
addSources(pictureSources);

const LIMIT = 256 * 1024 * 1024;

/** The bytes of a file, or a word about why not. */
export function readBytes(file: string): Uint8Array {
  if (!existsSync(file)) throw new Failure('file-missing', `There is no file ${file}.`, { file });
  const stat = statSync(file);
  if (stat.isDirectory()) throw new Failure('file-missing', `${file} is a folder; a file is needed.`, { file });
  if (stat.size > LIMIT)
    throw new Failure('file-too-large', `${file} has ${(stat.size / 1048576).toFixed(0)} MB; at most 256 MB are read.`, { file });
  return readFileSync(file);
}

/** What lies beside a file, by the name that it is called there; links are not followed out of its folder. */
export const besideOf =
  (file: string) =>
  (name: string): Uint8Array | undefined => {
    const folder = realpathSync(dirname(resolve(file)));
    const path = join(folder, name);
    if (!existsSync(path) || !realpathSync(path).startsWith(join(folder, '/')) || !statSync(path).isFile()) return undefined;
    return readBytes(path);
  };

/** Adds the file's name to whatever goes wrong while it is read. */
export async function inFile<T>(file: string, run: () => MaybePromise<T>): Promise<T> {
  try {
    return await run();
  } catch (error) {
    throw named(file, error);
  }
}

function named(file: string, error: unknown): Failure {
  const failure = asFailure(error);
  return failure.where.file ? failure : new Failure(failure.code, failure.message, { file, ...failure.where });
}

/** A folder project: its index and what lies in the folders beside it. */
function projectAt(file: string): ProjectFiles {
  const files = new Map([[basename(file), readBytes(file)]]);
  const around = dirname(file);
  for (const { name } of readdirSync(around, { withFileTypes: true }).filter(
    (one) => one.isDirectory() && one.name.endsWith(PARTS_ENDING),
  ))
    for (const part of readdirSync(join(around, name), { withFileTypes: true }))
      if (part.isFile()) files.set(`${name}/${part.name}`, readBytes(join(around, name, part.name)));
  return files;
}

/** How a linked file stands, seen from the master's file. */
interface StandingLink {
  readonly name: string;
  readonly link: string;
  readonly state: LinkState;
}

/** What the linked files of a master are: those that are as they were last seen come along. */
export function followLinks(file: string, pkg: NativePackage): { pkg: NativePackage; links: StandingLink[] } {
  const resources = new Map(pkg.resources);
  const links = linkedIn(pkg.master).map(({ id, name, link }): StandingLink => {
    let state: LinkState = 'missing';
    for (const path of linkPlaces(resolve(dirname(file)), link).map((one) => `/${one}`)) {
      const stat = statSync(path, { throwIfNoEntry: false });
      if (!stat) continue;
      const bytes = stat.isFile() && stat.size <= LIMIT ? readFileSync(path) : null;
      if (bytes && digest(bytes) === id) {
        resources.set(id, bytes);
        return { name, link, state: 'here' };
      }
      if (state === 'missing') state = bytes ? 'changed' : 'not a file';
    }
    return { name, link, state };
  });
  return { pkg: { ...pkg, resources }, links };
}

/** A master with the linked files that are where they should be. @throws Failure with the file's name in it */
export function readMaster(file: string): NativePackage {
  try {
    if (isIndexName(file)) return openProject(basename(file), projectAt(file));
    const bytes = readBytes(file);
    if (isNativeCopy(bytes))
      throw new Failure('not-native', 'This is a copy of a master, in an older version. `twin import` makes a master of it.');
    return followLinks(file, readPackage(bytes)).pkg;
  } catch (error) {
    throw named(file, error);
  }
}

/** What deriving and checking need from outside, under Node.js. */
export const services = (...masters: readonly NativePackage[]): Services => ({
  fonts: shippedFonts(),
  pictures: pictureEngine,
  solids: solidEngine,
  charts: chartEngine,
  resource: (sha) => {
    const bytes = masters.map(({ resources }) => resources.get(sha)).find(Boolean);
    if (!bytes) {
      const linked = masters.flatMap(({ master }) => linkedIn(master)).find((one) => one.id === sha);
      throw new Failure(
        'resource-missing',
        linked
          ? `${linked.name} is linked and not at ${linked.link} as it was last seen. Put it there again, below the folder of the master's file or one above it.`
          : `The master's file does not hold the picture ${sha.slice(0, 12)}….`,
        { node: sha },
      );
    }
    return bytes;
  },
});

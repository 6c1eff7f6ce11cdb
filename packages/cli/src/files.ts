import { existsSync, readFileSync, readdirSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import {
  Failure,
  addCodecs,
  addSources,
  type MaybePromise,
  type Means,
  type NativePackage,
  PARTS_ENDING,
  type ProjectFiles,
  asFailure,
  isIndexName,
  openProject,
  readPackage,
} from '@inkwell-twin/core';
import { nodeCodecs, pictureEngine, pictureSources, shippedFonts, solidEngine, chartEngine } from '@inkwell-twin/render';

addCodecs(nodeCodecs);
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

export function readMaster(file: string): NativePackage {
  try {
    return isIndexName(file) ? openProject(basename(file), projectAt(file)) : readPackage(readBytes(file));
  } catch (error) {
    throw named(file, error);
  }
}

/** What deriving and checking need from outside, under Node.js. */
export const means = (...masters: readonly NativePackage[]): Means => ({
  fonts: shippedFonts(),
  pictures: pictureEngine,
  solids: solidEngine,
  charts: chartEngine,
  resource: (sha) => {
    const bytes = masters.map(({ resources }) => resources.get(sha)).find(Boolean);
    if (!bytes)
      throw new Failure('resource-missing', `The master's file does not hold the picture ${sha.slice(0, 12)}….`, { node: sha });
    return bytes;
  },
});

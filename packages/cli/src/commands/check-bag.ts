import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import {
  type Bag,
  Failure,
  asFailure,
  bagIn,
  checkBag,
  findingInWords,
  nativeInBag,
  readPackage,
  recognise,
} from '@inkwell-twin/core';
import { inFile, readBytes } from '../files';
import type { Answer } from '../output';

/** Files that are told of by name where somebody reads it. */
const NAMED = 40;

/** Files of a bag that lies unpacked, by their path below its folder. */
function filesBelow(folder: string, within = ''): [string, Uint8Array][] {
  return readdirSync(join(folder, within), { withFileTypes: true }).flatMap((entry): [string, Uint8Array][] => {
    const path = within ? `${within}/${entry.name}` : entry.name;
    if (entry.isDirectory()) return filesBelow(folder, path);
    return entry.isFile() ? [[path, readBytes(join(folder, path))]] : [];
  });
}

/** The bag that a file or a folder is; null for everything else. */
function bagAt(path: string): Bag | null {
  if (existsSync(path) && statSync(path).isDirectory())
    return existsSync(join(path, 'bagit.txt')) ? new Map(filesBelow(path)) : null;
  const bytes = readBytes(path);
  // All of a master, so that none is needed to check it.
  return recognise(bytes)?.renditions ? bagIn(bytes) : null;
}

/**
 * Holds an archive package against its own checksums, file by file, and opens the master in it.
 * @param path a zip archive, or a folder that it was unpacked to
 */
export async function checkArchive(path: string): Promise<Answer> {
  const bag = await inFile(path, () => bagAt(path));
  if (!bag)
    throw new Failure('usage', `${path} is no archive package. To check a copy against its master: twin check MASTER COPY...`, {
      file: path,
    });
  const findings = await inFile(path, () => checkBag(bag));
  const native = nativeInBag(bag);
  let master: { id: string; title: string; rev: number } | null = null;
  let problem = native ? '' : 'There is no master in it.';
  try {
    const found = native && readPackage(native);
    if (found) master = { id: found.master.id, title: found.master.title, rev: found.rev };
  } catch (error) {
    problem = `The master in it can’t be opened: ${asFailure(error).message}`;
  }
  const isWhole = !findings.length && !problem;
  const of = master ? `“${master.title}”, r${master.rev}` : 'a master';
  return {
    code: isWhole ? 0 : 1,
    output: {
      command: 'check-archive',
      file: path,
      files: bag.size,
      findings: findings.map((one) => ({ ...one })),
      master,
      problem,
    },
    lines: [
      `${path}: an archive of ${of}; ${bag.size} files${isWhole ? ', each as it was laid in' : ''}`,
      ...findings.slice(0, NAMED).map((one) => `  ${findingInWords(one)}`),
      ...(findings.length > NAMED ? [`  … and ${findings.length - NAMED} more`] : []),
      ...(problem ? [`  ${problem}`] : []),
    ],
  };
}

import { Failure } from '../../base/failure/failure';
import { upgrade1to2 } from './upgrade/one-to-two';
import { upgrade2to3 } from './upgrade/two-to-three';
import { assertSound } from '../sound';
import { ORIGIN } from './origin';
import type { NativePackage } from './package';
import { type ProjectFiles, isIndexName, readProject } from './v1/read';
import { entryNames, unpackEntries } from './zip';

/** A folder project of version 1, brought up to now in memory: 1 to 2, then 2 to 3. @throws Failure as `readProject` and `assertSound` do */
export function openProject(indexName: string, files: ProjectFiles): NativePackage {
  const found: NativePackage = { ...upgrade2to3(upgrade1to2(readProject(indexName, files))), native: 1 };
  assertSound(found.master);
  return found;
}

/** Whether this is a zip archive with a folder project in it: that is how one goes by mail. A copy in that version is none. */
export const holdsProject = (bytes: Uint8Array): boolean => {
  const names = entryNames(bytes);
  return names.some(isIndexName) && !names.includes(ORIGIN);
};

/** The project in a zip archive, wherever in it the index lies. @throws Failure as `readProject` does */
export function openPackedProject(bytes: Uint8Array): NativePackage {
  const entries = unpackEntries(bytes);
  const indexes = [...entries.keys()].filter(isIndexName);
  if (indexes.length !== 1)
    throw new Failure(
      'package-damaged',
      `The archive holds ${indexes.length} folder projects: ${indexes.join(', ').slice(0, 200)}. Send one at a time.`,
    );
  const within = indexes[0]!.slice(0, indexes[0]!.lastIndexOf('/') + 1);
  const files = new Map(
    [...entries].flatMap(([path, part]) => (path.startsWith(within) ? [[path.slice(within.length), part] as const] : [])),
  );
  return openProject(indexes[0]!.slice(within.length), files);
}

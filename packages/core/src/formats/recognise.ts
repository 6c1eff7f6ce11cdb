import { entryNames } from '../document/native/zip';
import { CERTAINTIES, type Declaration } from '../contracts/declaration';
import { declarations } from './declarations';

/** Whether a file can be one of a format, by its first bytes. @param entries names of what is in it, where it is a zip package */
export const canBe = ({ recognise: ways }: Declaration, head: Uint8Array, entries: readonly string[] = []): boolean =>
  CERTAINTIES.some((certainty) => ways[certainty]?.(head, entries));

/** The target that is surest of these bytes, or undefined where none knows them. */
export function recognise(bytes: Uint8Array): Declaration | undefined {
  const [entries, head, all] = [entryNames(bytes), bytes.subarray(0, 4096), declarations()];
  for (const certainty of CERTAINTIES) {
    // A package may hold a drawing as it is, whose words its own bytes show: what goes by those alone is no package.
    const isIt = ({ recognise: ways }: Declaration): boolean =>
      ways[certainty]?.(head, entries) === true && !(entries.length && ways[certainty]!(head, []));
    const found = all.find(isIt);
    if (found) return found;
  }
  return undefined;
}

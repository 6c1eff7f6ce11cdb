import { diffArrays } from 'diff';
import { tokensOf } from './words';

/** One place where two wordings differ, or a stretch in which they do not. */
export interface WordChange {
  readonly same: boolean;
  /** Places in the plain text of each side. */
  readonly master: readonly [from: number, to: number];
  readonly copy: readonly [from: number, to: number];
}

/** Tokens up to which what changed is told word by word. */
const MOST_EDITS = 3000;

/**
 * Two wordings word by word, as stretches that are the same or not, in order and without gaps (Myers 1986, by the library diff).
 * Wordings that differ in almost everything are one stretch.
 */
export function wordDiff(master: string, copy: string): WordChange[] {
  if (master === copy) return master ? [{ same: true, master: [0, master.length], copy: [0, copy.length] }] : [];
  const parts = diffArrays(tokensOf(master), tokensOf(copy), { maxEditLength: MOST_EDITS });
  if (!parts) return [{ same: false, master: [0, master.length], copy: [0, copy.length] }];
  const out: WordChange[] = [];
  let [i, j] = [0, 0];
  for (const { added, removed, value } of parts) {
    const length = value.reduce((sum, token) => sum + token.length, 0);
    const [a, b] = [added ? i : i + length, removed ? j : j + length];
    const last = out.at(-1);
    const same = !added && !removed;
    if (last && !same && !last.same) out[out.length - 1] = { same, master: [last.master[0], a], copy: [last.copy[0], b] };
    else out.push({ same, master: [i, a], copy: [j, b] });
    [i, j] = [a, b];
  }
  return joined(out, master, copy);
}

/** Changes between which only a blank stays are one: two words changed, not two changes. */
function joined(changes: readonly WordChange[], master: string, copy: string): WordChange[] {
  const out: WordChange[] = [];
  changes.forEach((change, i) => {
    const [before, after] = [out.at(-1), changes[i + 1]];
    const blank = change.same && /^\s+$/.test(master.slice(...change.master)) && copy.slice(...change.copy).length < 2;
    if (before && !before.same && (!change.same || (blank && after)))
      out[out.length - 1] = { same: false, master: [before.master[0], change.master[1]], copy: [before.copy[0], change.copy[1]] };
    else out.push(change);
  });
  return out;
}

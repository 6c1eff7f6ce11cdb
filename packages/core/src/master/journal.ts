import { canonical, digest } from './hash';
import type { Step } from './patches';

/** The hash that the first step of a draft builds on: this master at this revision. */
export const journalStart = (master: string, base: number): string => digest(`${master} r${base}`);

/** The hash of a journal after one more step. Equal hashes mean equal steps, all the way back to the same revision. */
export const journalHash = (before: string, { label, forward, inverse }: Step): string =>
  digest(`${before} ${canonical([label, forward, inverse])}`);

/** The hashes of a journal: before its first step, and after each. */
export function journalHashes(master: string, base: number, steps: readonly Step[]): string[] {
  const hashes = [journalStart(master, base)];
  for (const step of steps) hashes.push(journalHash(hashes.at(-1)!, step));
  return hashes;
}

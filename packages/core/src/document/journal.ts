import { digest } from './hash';
import type { Patch, Step } from './patches';

/** The hash that the first step of a draft builds on: this master at this revision. */
export const journalStart = (master: string, base: number): string => digest(`${master} r${base}`);

/** A patch as text. Values are JSON in the order in which they came, which the way over the wire and into the store keeps. */
function textOf(patch: Patch): string {
  if (patch.op === 'set') return `s ${patch.node} ${patch.attribute} ${JSON.stringify(patch.value)}\n`;
  const place = `${patch.parent} ${patch.list}`;
  return patch.op === 'insert' ? `i ${place} ${patch.after} ${JSON.stringify(patch.node)}\n` : `r ${place} ${patch.node}\n`;
}

/** The hash of a journal after one more step. Equal hashes mean equal steps, all the way back to the same revision. */
export function journalHash(before: string, { label, forward, inverse }: Step): string {
  let text = `${before} ${JSON.stringify(label)}\n`;
  for (const patch of forward) text += textOf(patch);
  text += '\n';
  for (const patch of inverse) text += textOf(patch);
  return digest(text);
}

/** The hashes of a journal: before its first step, and after each. */
export function journalHashes(master: string, base: number, steps: readonly Step[]): string[] {
  const hashes = [journalStart(master, base)];
  for (const step of steps) hashes.push(journalHash(hashes.at(-1)!, step));
  return hashes;
}

import type { DraftView } from '@inkwell-twin/api';
import { type Master, type Step, applyPatches, journalHash, journalHashes, rebaseSteps } from '@inkwell-twin/core/web';
import type { DraftAct } from './draft-acts';

/** A document after steps. */
export const applied = (master: Master, steps: readonly Step[]): Master => {
  let now = master;
  for (const { forward } of steps) now = applyPatches(now, forward).master;
  return now;
};

/** How many steps two journals have in common from the start. */
export function commonLength(a: readonly string[], b: readonly string[]): number {
  let i = 0;
  while (i + 1 < a.length && i + 1 < b.length && a[i + 1] === b[i + 1]) i++;
  return a[0] === b[0] ? i : 0;
}

/**
 * A draft with what an earlier window had done on top of it and never got acknowledged. What builds on a part of the draft is
 * carried over onto its end; what builds on something that is not there any more is tried as it is.
 */
export function withUnsent(
  life: string,
  base: number,
  document: Master,
  draft: DraftView | null,
  left: readonly DraftAct[],
): { steps: readonly Step[]; position: number; unsent: number } {
  let steps = (draft?.steps ?? []) as Step[];
  let position = draft?.position ?? 0;
  let unsent = 0;
  for (const act of left) {
    const hashes = journalHashes(life, base, steps);
    if (act.kind === 'move') {
      if (hashes[act.position] === act.hash && act.position !== position) {
        position = act.position;
        unsent++;
      }
      continue;
    }
    const reached = act.steps.reduce((hash, step) => journalHash(hash, step), act.hash);
    if (hashes.indexOf(reached) > 0) continue;
    const now = applied(document, steps.slice(0, position));
    if (hashes[position] === act.hash) steps = [...steps.slice(0, position), ...act.steps];
    else {
      const known = hashes.indexOf(act.hash);
      const before = known >= 0 && known <= position ? applied(document, steps.slice(0, known)) : now;
      steps = [...steps.slice(0, position), ...rebaseSteps(before, now, act.steps).steps];
    }
    unsent += steps.length - position;
    position = steps.length;
  }
  return { steps, position, unsent };
}

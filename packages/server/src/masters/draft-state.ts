import { Failure, type Master, type Step, applyPatches, assertStaysSound, journalHash } from '@inkwell-twin/core';

/** A draft as one sees it. */
export interface DraftData {
  readonly base: number;
  readonly position: number;
  readonly steps: readonly Step[];
  readonly hash: string;
  readonly updatedAt: string;
  /** From before drafts had owners: whoever goes on with it takes it over. */
  readonly unclaimed: boolean;
}

/** A draft in memory: its journal with the hash after each step, and the master as it leaves it. */
export interface Session {
  /** Of the master. */
  readonly life: string;
  readonly version: number;
  readonly base: number;
  readonly position: number;
  readonly steps: readonly Step[];
  /** One more than steps: before the first, and after each. */
  readonly hashes: readonly string[];
  readonly document: Master;
  readonly updatedAt: string;
  readonly unclaimed: boolean;
}

/** A step that is kept in memory weighs about so many times its text. */
const WEIGHT = 4;

export const stateOf = ({ position, hashes }: Session) => ({ position, hash: hashes[position]! });
export const dataOf = ({ base, position, steps, hashes, updatedAt, unclaimed }: Session): DraftData => ({
  base,
  position,
  steps,
  hash: hashes[position]!,
  updatedAt,
  unclaimed,
});
// The documents of a master's drafts share nearly everything; what a draft holds of its own are its steps.
export const weightOf = ({ steps }: Session): number =>
  200_000 + WEIGHT * steps.reduce((sum, step) => sum + 300 * (step.forward.length + step.inverse.length), 0);

/** Steps that a draft may hold: as many as can be carried over in one go. */
const MOST_STEPS = 20_000;

/**
 * A draft with steps on top of what is done of it; what had been undone is forgotten.
 * @throws Failure of a step that can't be done or kept, `draft-full`; the draft given stays as it was
 */
export function withSteps(session: Session, steps: readonly Step[]): Session {
  const { position } = session;
  if (position + steps.length > MOST_STEPS)
    throw new Failure('draft-full', `A draft holds at most ${MOST_STEPS} changes. Update the master, then go on.`);
  let { document } = session;
  const hashes = session.hashes.slice(0, position + 1);
  for (const step of steps) {
    document = applyPatches(document, step.forward).master;
    hashes.push(journalHash(hashes.at(-1)!, step));
  }
  assertStaysSound(
    document,
    steps.flatMap(({ forward }) => forward),
  );
  const kept = [...session.steps.slice(0, position), ...steps];
  return { ...session, steps: kept, hashes, document, position: kept.length };
}

/** Whether exactly these steps stand at this place already and are done. */
export function isThere({ hashes, position: at }: Session, position: number, hash: string, steps: readonly Step[]): boolean {
  if (hashes[position] !== hash || at < position + steps.length) return false;
  let own = hash;
  return steps.every((step, i) => (own = journalHash(own, step)) === hashes[position + i + 1]);
}

export const whyNot = (there: Session, base: number): string =>
  there.base === base
    ? 'These changes build on others than the draft holds. What is there is in the answer; nothing of it is lost.'
    : `Your changes start from r${base}, but the draft rests on r${there.base}. Nothing of either is lost.`;

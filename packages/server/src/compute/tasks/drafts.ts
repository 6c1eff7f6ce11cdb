import { gzipSync } from 'node:zlib';
import type { Step } from '@inkwell-twin/core';
import type { Person } from '../../masters/drafts';
import { type Updated, updateMaster } from '../../masters/updates';
import { readBody } from '../../routes/body';
import type { Engine } from '../engine';

type State = { position: number; hash: string };
interface ForPerson {
  readonly master: string;
  readonly person: Person;
}

/** A person's draft as JSON text; `null` where there is none. Compressed, because a draft may be large. */
export async function draft({ drafts }: Engine, { master, person }: { master: string; person: string }): Promise<Uint8Array> {
  return gzipSync(JSON.stringify({ draft: await drafts.find(master, person) }), { level: 1 });
}

/** A request's body that may hold thousands of patches: it crosses as it came and is read here, off the thread that answers. */
interface Unread extends ForPerson {
  readonly body: Uint8Array;
}

export const addSteps = async ({ drafts, jobs }: Engine, { master, person, body }: Unread): Promise<State> => {
  const { steps, ...rest } = readBody('addSteps', body);
  const state = await drafts.add(master, person, { ...rest, steps: steps as Step[] });
  // Whoever else looks at this master learns that there is a draft now.
  if (rest.position === 0) await jobs.event({ kind: 'master', master });
  return state;
};

export const moveDraft = ({ drafts }: Engine, { master, person, ...rest }: ForPerson & State): Promise<State> =>
  drafts.moveTo(master, person, rest);

export const replaceDraft = async ({ drafts }: Engine, { master, person, body }: Unread): Promise<State> => {
  const { steps, ...rest } = readBody('replaceDraft', body);
  return drafts.replace(master, person, { ...rest, steps: steps as Step[] });
};

export const discardDraft = async ({ drafts, jobs }: Engine, { master, person }: ForPerson): Promise<void> => {
  await drafts.discard(master, person.id);
  await jobs.event({ kind: 'master', master });
};

export const update = (
  engine: Engine,
  { master, person, ...rest }: ForPerson & { base: number; position: number; hash: string; message: string },
): Promise<Updated> => updateMaster(engine, master, person, rest);

import { gzipSync } from 'node:zlib';
import type { Step } from '@inkwell-twin/core';
import type { Person } from '../../masters/drafts';
import { type Updated, updateMaster } from '../../masters/updates';
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

export const addSteps = (
  { drafts }: Engine,
  { master, person, ...rest }: ForPerson & { base: number; position: number; hash: string; steps: readonly Step[] },
): Promise<State> => drafts.add(master, person, rest);

export const moveDraft = ({ drafts }: Engine, { master, person, ...rest }: ForPerson & State): Promise<State> =>
  drafts.moveTo(master, person, rest);

export const replaceDraft = (
  { drafts }: Engine,
  { master, person, ...rest }: ForPerson & { base: number; replaces: string; steps: readonly Step[] },
): Promise<State> => drafts.replace(master, person, rest);

export const discardDraft = ({ drafts }: Engine, { master, person }: ForPerson): Promise<void> =>
  drafts.discard(master, person.id);

export const update = (
  engine: Engine,
  { master, person, ...rest }: ForPerson & { base: number; position: number; hash: string; message: string },
): Promise<Updated> => updateMaster(engine, master, person, rest);

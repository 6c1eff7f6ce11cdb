import {
  Failure,
  type FieldMeeting,
  type Said,
  type SaidField,
  asFailure,
  meetingOf,
  readSidecar,
  saidOf,
  settled,
  standOf,
  writeSidecar,
} from '@inkwell-twin/core';
import type { OutsideDescription } from '@inkwell-twin/api';
import { sha256 } from '../blobs/blobs';
import type { Engine } from '../compute/engine';
import { type Queryable, lockInTransaction } from '../database/database';
import { describePatches } from './said-patches';
import { reviseMaster } from './updates';

export type SidecarState = OutsideDescription['state'];
type Choices = Partial<Record<SaidField, 'inside' | 'outside'>>;

interface Standing {
  readonly folder: string;
  readonly base: Said | null;
  readonly standing: boolean;
  readonly inside: Said;
  /** What the file says; null where there is none or it can't be read. */
  readonly outside: Said | null;
  readonly text: string | null;
  readonly sha: string | null;
  readonly state: SidecarState;
  readonly fields: readonly FieldMeeting[];
  readonly trouble: string | null;
}

/** Looks at both sides. */
async function standingOf({ masters, shelf }: Engine, client: Queryable, id: string): Promise<Standing> {
  const { rows } = await client.query<{ folder: string; base: Said | null; standing: boolean | null }>(
    'select folder, base, standing from master left join sidecar on sidecar.master = master.id where id = $1',
    [id],
  );
  const [row] = rows;
  if (!row) throw new Failure('not-found', 'There is no such master on this Desk.');
  const { folder, base } = row;
  const { head } = await masters.load(id, client);
  const inside = saidOf(head.master);
  const found = { folder, base, standing: row.standing ?? false, inside };
  const nothing = { outside: null, text: null, sha: null, fields: [], trouble: null };
  let bytes: Buffer | null;
  try {
    const seen = shelf.look(folder, shelf.sidecarFile(folder));
    if (seen.kind === 'other') return { ...found, ...nothing, state: 'unreadable', trouble: seen.words };
    bytes = seen.kind === 'file' ? seen.bytes : null;
  } catch (error) {
    return { ...found, ...nothing, state: 'unreadable', trouble: asFailure(error).message };
  }
  if (!bytes) return { ...found, ...nothing, state: base || found.standing ? 'gone' : 'none' };
  const [text, sha] = [bytes.toString('utf8'), sha256(bytes)];
  try {
    const outside = readSidecar(text);
    const fields = meetingOf(base, inside, outside);
    return { ...found, outside, text, sha, fields, state: standOf(fields), trouble: null };
  } catch (error) {
    return { ...found, ...nothing, text, sha, state: 'unreadable', trouble: asFailure(error).message };
  }
}

async function keep(client: Queryable, id: string, { state, fields, trouble, inside, base }: Standing): Promise<boolean> {
  // Where both say the same, that is what the next change on either side is held against.
  const now = state === 'in step' ? inside : base;
  const { rowCount } = await client.query(
    `insert into sidecar (master, base, state, fields, trouble) values ($1, $2, $3, $4, $5)
     on conflict (master) do update set base = $2, state = $3, fields = $4, trouble = $5
       where (sidecar.state, sidecar.fields::text, sidecar.trouble, sidecar.base::text) is distinct from ($3, $6, $5, $7)`,
    [id, now && JSON.stringify(now), state, JSON.stringify(fields), trouble, JSON.stringify(fields), now && JSON.stringify(now)],
  );
  return (rowCount ?? 0) > 0;
}

/** Puts a description into its file: all else that stands there stays, and what came there meanwhile is not written over. */
function put({ shelf }: Engine, { folder, text, sha }: Standing, said: Said): void {
  const bytes = Buffer.from(writeSidecar(said, text));
  const aside = shelf.put(folder, shelf.sidecarFile(folder), bytes, (standing) => standing === sha);
  if (aside)
    throw new Failure('conflict', `The file changed in this very moment; what came there is kept as ${aside}. Look again.`);
}

/**
 * Finds again how a master's description and its file stand. By standing order, what changed here alone is written out.
 * @returns whether that is news
 */
export async function standSidecar(engine: Engine, id: string): Promise<boolean> {
  return engine.database.transaction(async (client) => {
    await lockInTransaction(client, `sidecar of ${id}`);
    const standing = await standingOf(engine, client, id);
    if (standing.standing && (standing.state === 'pending' || standing.state === 'gone')) {
      put(engine, standing, standing.inside);
      return keep(client, id, { ...standing, state: 'in step', fields: [] });
    }
    if (standing.state === 'none' && !standing.base) {
      const { rowCount } = await client.query(
        "update sidecar set state = 'none', fields = '[]' where master = $1 and state <> 'none'",
        [id],
      );
      return (rowCount ?? 0) > 0;
    }
    return keep(client, id, standing);
  });
}

/** Writes a description out, by hand. @throws Failure `conflict` where the file was changed by someone: that is settled first */
export async function writeOut(engine: Engine, id: string): Promise<void> {
  await engine.database.transaction(async (client) => {
    await lockInTransaction(client, `sidecar of ${id}`);
    const standing = await standingOf(engine, client, id);
    if (standing.state === 'unreadable')
      throw new Failure('conflict', `Its file can’t be read, and is not written over: ${standing.trouble} Move it away first.`);
    if (standing.state === 'outside' || standing.state === 'both')
      throw new Failure('conflict', 'Its file was changed by someone, too. Settle that first; nothing was written.');
    put(engine, standing, standing.inside);
    await keep(client, id, { ...standing, state: 'in step', fields: [] });
  });
}

/**
 * Settles what is not the same on both sides: what counts outside becomes the next revision, and the file says all of it.
 * @param choices which side counts, by field; where none is said, the side that changed, and ours where both did
 */
export async function settleSidecar(engine: Engine, id: string, author: string, choices: Choices): Promise<void> {
  const said = await engine.database.transaction(async (client) => {
    await lockInTransaction(client, `sidecar of ${id}`);
    const { outside, inside, fields, trouble } = await standingOf(engine, client, id);
    if (!outside) throw new Failure('conflict', trouble ?? 'There is no file of its description any more. Look again.');
    return settled(fields, inside, outside, choices);
  });
  await reviseMaster(engine, id, author, 'Description taken from its file', (now) => describePatches(now, said));
  await engine.database.transaction(async (client) => {
    await lockInTransaction(client, `sidecar of ${id}`);
    const standing = await standingOf(engine, client, id);
    put(engine, standing, said);
    await keep(client, id, await standingOf(engine, client, id));
  });
}

/** Says whether every update writes the description out. */
export async function orderSidecar(engine: Engine, id: string, on: boolean): Promise<void> {
  await engine.database.query(
    'insert into sidecar (master, standing) values ($1, $2) on conflict (master) do update set standing = $2',
    [id, on],
  );
  await standSidecar(engine, id);
}

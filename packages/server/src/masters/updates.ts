import { Failure, type Master, type Patch, type RevisionRecord, applyPatches, changesBetween } from '@inkwell-twin/core';
import type { Queryable } from '../database/database';
import type { Engine } from '../compute/engine';
import { Refusal } from '../compute/refusal';
import { LARGE } from '../jobs/queues';
import type { Person } from './drafts';
import { rowOfMaster } from './store';

/** What an update did: the new revision, and the job that looks at the copies that it outdated. */
export interface Updated {
  readonly rev: number;
  readonly job: string;
}

/**
 * Writes a draft as the next revision: the changes between head and draft, not the document. What follows from it (how each
 * copy stands, the native file, the picture) is asked for in the same transaction, so that a kill forgets none of it.
 * @throws Refusal when someone else updated in between or the draft is another, Failure `nothing-to-update`
 */
export async function updateMaster(
  engine: Engine,
  id: string,
  person: Person,
  { base, position, hash, message }: { base: number; position: number; hash: string; message: string },
): Promise<Updated> {
  const { database, masters, drafts } = engine;
  return database.transaction(async (client) => {
    const { rows } = await client.query<{ head: number }>('select head from master where id = $1 for update', [id]);
    if (!rows[0]) throw new Failure('not-found', 'There is no such master on this Desk.');
    const { document, labels } = await drafts.result(client, id, person.id, { base, position, hash });
    if (rows[0].head !== base)
      throw new Refusal(
        `Someone updated this master to r${rows[0].head} meanwhile; your draft rests on r${base} and is kept.`,
        await drafts.find(id, person.id),
      );
    const loaded = await masters.load(id, client);
    const patches = changesBetween(loaded.head.master, document);
    if (!patches.length)
      throw new Failure('nothing-to-update', `The changes cancel each other out: the draft is the same as r${base}.`);
    const words = message.trim() || labels.slice(-3).join('; ');
    const updated = await addNext(engine, client, id, { rev: base + 1, author: person.name, message: words, patches }, document);
    await drafts.discard(id, person.id, client);
    return updated;
  });
}

/** Adds the next revision and asks for all that follows from it. */
async function addNext(
  { masters, copies, jobs }: Engine,
  client: Queryable,
  id: string,
  record: Omit<RevisionRecord, 'time'>,
  document: Master,
): Promise<Updated> {
  const { rev, message } = record;
  await masters.addRevision(client, id, { ...record, time: new Date().toISOString(), message: message.slice(0, 1000) }, null);
  const { title, owner, parts, objects, keywords, named } = rowOfMaster(document);
  await client.query(
    'update master set head = $2, title = $3, owner = $4, part_names = $5, objects = $6, keywords = $7, object_names = $8 where id = $1',
    [id, rev, title, owner, parts, objects, keywords, named],
  );
  await jobs.writeFile(id, client);
  await jobs.picture(id, client);
  // How the copies of a large master stand takes longer than someone should wait: until a job has found it, nobody knows.
  const job = objects > LARGE ? await jobs.stand(id, client) : await jobs.check(id, await copies.stand(client, id), client);
  await jobs.orders(id, client);
  return { rev, job };
}

/**
 * Changes the head without a draft, as the next revision: for what is done to many masters at once. Drafts stay, on the revision
 * that they rest on, and are carried over like any others.
 * @param change patches for a document; none where nothing is to be changed
 * @returns null where nothing changed
 */
export async function reviseMaster(
  engine: Engine,
  id: string,
  author: string,
  message: string,
  change: (master: Master) => readonly Patch[],
): Promise<Updated | null> {
  const { database, masters } = engine;
  return database.transaction(async (client) => {
    const { rows } = await client.query<{ head: number }>('select head from master where id = $1 for update', [id]);
    if (!rows[0]) throw new Failure('not-found', 'There is no such master on this Desk.');
    const { head } = await masters.load(id, client);
    const document = applyPatches(head.master, change(head.master)).master;
    const patches = changesBetween(head.master, document);
    if (!patches.length) return null;
    return addNext(engine, client, id, { rev: head.rev + 1, author, message, patches }, document);
  });
}

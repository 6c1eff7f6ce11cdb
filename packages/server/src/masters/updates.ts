import { Failure, type RevisionRecord, changesBetween } from '@inkwell-twin/core';
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
  { database, masters, drafts, copies, jobs }: Engine,
  id: string,
  person: Person,
  { base, position, hash, message }: { base: number; position: number; hash: string; message: string },
): Promise<Updated> {
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
    const rev = base + 1;
    const words = message.trim() || labels.slice(-3).join('; ');
    const record: RevisionRecord = {
      rev,
      time: new Date().toISOString(),
      author: person.name,
      message: words.slice(0, 1000),
      patches,
    };
    await masters.addRevision(client, id, record, null);
    const { title, owner, parts, objects } = rowOfMaster(document);
    await client.query('update master set head = $2, title = $3, owner = $4, part_names = $5, objects = $6 where id = $1', [
      id,
      rev,
      title,
      owner,
      parts,
      objects,
    ]);
    await drafts.discard(id, person.id, client);
    await jobs.writeFile(id, client);
    await jobs.picture(id, client);
    // How the copies of a large master stand takes longer than someone should wait: until a job has found it, nobody knows.
    const job = objects > LARGE ? await jobs.stand(id, client) : await jobs.check(id, await copies.stand(client, id), client);
    return { rev, job };
  });
}

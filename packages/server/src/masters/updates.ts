import { Failure, type RevisionRecord, changesBetween } from '@inkwell-twin/core';
import type { Database } from '../database/database';
import type { Drafts } from './drafts';
import type { MasterStore } from './store';

/**
 * Writes a draft as the next revision: the changes between head and draft, not the document.
 * @throws Failure `conflict` when someone else updated in between, `nothing-to-update`
 */
export async function updateMaster(
  database: Database,
  masters: MasterStore,
  drafts: Drafts,
  id: string,
  { base, position, message, author }: { base: number; position: number; message: string; author: string },
): Promise<number> {
  return database.transaction(async (client) => {
    const { rows } = await client.query('select head from master where id = $1 for update', [id]);
    const draft = await drafts.find(id, client);
    const loaded = await masters.load(id);
    if (!draft) throw new Failure('nothing-to-update', 'There are no changes to update with.');
    if (rows[0]?.head !== base || draft.base !== base)
      throw new Failure(
        'conflict',
        `Someone updated this master to r${rows[0]?.head} meanwhile; your draft rests on r${draft.base} and is kept.`,
      );
    if (draft.position !== position)
      throw new Failure(
        'conflict',
        'The draft has other changes than this window shows. Open the master again; nothing is lost.',
      );
    const after = await drafts.apply(id, draft);
    const patches = changesBetween(loaded.head.master, after);
    if (!patches.length)
      throw new Failure('nothing-to-update', `The changes cancel each other out: the draft is the same as r${base}.`);
    const rev = base + 1;
    const words =
      message.trim() ||
      draft.steps
        .slice(0, draft.position)
        .map(({ label }) => label)
        .slice(-3)
        .join('; ');
    const record: RevisionRecord = {
      rev,
      time: new Date().toISOString(),
      author,
      message: words.slice(0, 1000),
      patches,
    };
    await masters.addRevision(client, id, record, null);
    await client.query('update master set head = $2, title = $3 where id = $1', [id, rev, after.title]);
    await drafts.discard(id, client);
    return rev;
  });
}

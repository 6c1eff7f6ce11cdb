import { type Master, Failure, asFailure, changesBetween, readPackage } from '@inkwell-twin/core';
import { readBlob, sha256, storeBlob } from '../blobs/blobs';
import type { Engine } from '../compute/engine';
import { lockInTransaction } from '../database/database';
import { keepOriginal } from './keep';

/**
 * Looks at a master's file on the shelf after something happened to it. One that another program changed is kept as it is and
 * told of; one that says what the master says already counts as ours; one that is gone is to be written again.
 * @returns what there is to do
 */
export async function lookOutside(engine: Engine, id: string): Promise<'nothing' | 'write' | 'told'> {
  const { database, shelf, masters } = engine;
  return database.transaction(async (client) => {
    // Whoever writes the file holds this until its checksum is on record.
    await lockInTransaction(client, `shelf of ${id}`);
    const { rows } = await client.query<{
      folder: string;
      file_sha256: string | null;
      file_taken: string | null;
      file_meant: string[];
      file_rev: number | null;
    }>('select folder, file_sha256, file_taken, file_meant, file_rev from master where id = $1 for update', [id]);
    const row = rows[0];
    if (!row?.file_sha256) return 'nothing';
    const standing = shelf.look(row.folder, shelf.masterFile(row.folder));
    if (standing.kind === 'nothing') return 'write';
    if (standing.kind === 'other') return 'nothing';
    const sha = sha256(standing.bytes);
    await client.query('update master set file_stamp = $2 where id = $1', [id, standing.stamp]);
    // Whoever wrote it was cut off before its checksum was on record.
    if (row.file_meant.includes(sha)) return 'write';
    const before = await client.query<{ sha256: string }>('select sha256 from outside where master = $1', [id]);
    if (sha === row.file_sha256 || sha === row.file_taken) {
      // It was put back as it was. One that gave way to a later revision of ours still waits for its decision.
      const { rowCount } = await client.query('delete from outside where master = $1 and base = $2', [id, row.file_rev]);
      return rowCount ? 'told' : 'nothing';
    }
    if (before.rows[0]?.sha256 === sha) return 'nothing';
    let trouble: string | null = null;
    try {
      const found = readPackage(standing.bytes);
      if (found.master.id !== id) throw new Failure('conflict', `It is another master, “${found.master.title}”.`);
      const { head } = await masters.load(id, client);
      if (!changesBetween(head.master, found.master).length) {
        await client.query('update master set file_taken = $2 where id = $1', [id, sha]);
        const { rowCount } = await client.query('delete from outside where master = $1', [id]);
        return rowCount ? 'told' : 'nothing';
      }
      // Pictures that came with it are needed to show it.
      for (const { id: resource, name, mediaType } of found.master.resources) {
        const bytes = found.resources.get(resource);
        if (bytes) await keepOriginal(client, id, { bytes, name, mediaType });
      }
    } catch (error) {
      trouble = asFailure(error).message;
    }
    await storeBlob(client, standing.bytes);
    await client.query(
      `insert into outside (master, sha256, base, trouble) values ($1, $2, $3, $4)
       on conflict (master) do update set sha256 = $2, trouble = $4, at = now()`,
      [id, sha, row.file_rev ?? 1, trouble],
    );
    return 'told';
  });
}

/** What another program made of a master. @throws Failure `not-found`, or why it can't be read */
export async function outsideOf({ database }: Engine, id: string): Promise<{ base: number; sha256: string; document: Master }> {
  const [row] = await database.rows<{ sha256: string; base: number }>('select sha256, base from outside where master = $1', [id]);
  if (!row) throw new Failure('not-found', 'The file of this master on the shelf is as it was written.');
  return { ...row, document: readPackage(await readBlob(database, row.sha256)).master };
}

/**
 * Says what becomes of a file that another program changed: it was taken in, or it is set aside under another name.
 * @param sha the file that was meant; another that came meanwhile waits for a decision of its own
 */
export async function settleOutside(
  { database, jobs }: Engine,
  id: string,
  sha: string,
  way: 'taken' | 'set aside',
): Promise<void> {
  await database.transaction(async (client) => {
    const { rowCount } = await client.query('delete from outside where master = $1 and sha256 = $2', [id, sha]);
    if (!rowCount)
      throw new Failure('conflict', 'The file on the shelf is another by now. Look at it again; nothing was decided.');
    if (way === 'taken') await client.query('update master set file_taken = $2 where id = $1', [id, sha]);
    // Writing it again sets aside what is not ours.
    else await jobs.writeFile(id, client);
  });
}

import { writePackage } from '@inkwell-twin/core';
import { readBlob, sha256 } from '../blobs/blobs';
import { type Database, lockInTransaction } from '../database/database';
import type { Shelf } from '../shelf/shelf';
import type { MasterStore } from './store';

/** The masters' native files on the shelf. They follow the database off the request path, as jobs. */
export class NativeFiles {
  constructor(
    private readonly database: Database,
    private readonly masters: MasterStore,
    private readonly shelf: Shelf,
  ) {}

  /**
   * Writes a master's file. The old one stands until the new one is whole and flushed. One that stands there and is not the one
   * we wrote last is someone's work: it gets another name, and is never written over.
   * @returns words for people about a file that was set aside, or null
   */
  async write(id: string): Promise<string | null> {
    const { head, history } = await this.masters.load(id);
    const resources = new Map<string, Uint8Array>();
    for (const { sha256: sha } of await this.database.rows<{ sha256: string }>('select sha256 from original where master = $1', [
      id,
    ]))
      resources.set(sha, await readBlob(this.database, sha));
    // Names are given to revisions that are known already: they are asked for, not remembered.
    const named = await this.database.rows<{ rev: number; name: string }>('select rev, name from revision where master = $1', [
      id,
    ]);
    const names = new Map(named.map(({ rev, name }) => [rev, name]));
    const revisions = history.revisions.map(({ name: _old, ...one }) => {
      const name = names.get(one.rev);
      return name ? { ...one, name } : one;
    });
    const bytes = writePackage({
      master: head.master,
      rev: head.rev,
      time: head.time,
      history: { ...history, revisions },
      resources,
    });
    const sha = sha256(bytes);
    const aside = await this.database.transaction(async (client) => {
      await lockInTransaction(client, `shelf of ${id}`);
      const { rows } = await client.query<{
        file_sha256: string | null;
        file_rev: number | null;
        file_taken: string | null;
        folder: string;
        older: object | null;
      }>('select file_sha256, file_rev, file_taken, folder, older from master where id = $1 for update', [id]);
      // A later job may have written a later revision already.
      if (!rows[0] || (rows[0].file_rev ?? 0) > head.rev) return null;
      // One that was opened from an older version lies beside it from its first update on.
      if (rows[0].older && head.rev === 1) return null;
      const { folder, file_sha256: written, file_taken: taken } = rows[0];
      const set = this.shelf.put(folder, this.shelf.masterFile(folder), bytes, (standing) =>
        [written, taken, sha].includes(standing),
      );
      const stamp = this.shelf.stamp(folder, this.shelf.masterFile(folder));
      await client.query('update master set file_sha256 = $2, file_rev = $3, file_stamp = $4 where id = $1', [
        id,
        sha,
        head.rev,
        stamp,
      ]);
      return set;
    });
    return aside && `The master's file on the shelf had been changed by another program. It was kept as ${aside}.`;
  }
}

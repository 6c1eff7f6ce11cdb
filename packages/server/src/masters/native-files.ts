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
    const { folder, head, history } = await this.masters.load(id);
    const resources = new Map<string, Uint8Array>();
    for (const { sha256: sha } of await this.database.rows<{ sha256: string }>('select sha256 from original where master = $1', [
      id,
    ]))
      resources.set(sha, await readBlob(this.database, sha));
    const bytes = writePackage({ master: head.master, rev: head.rev, time: head.time, history, resources });
    const file = this.shelf.masterFile(folder);
    const sha = sha256(bytes);
    const aside = await this.database.transaction(async (client) => {
      await lockInTransaction(client, `shelf ${folder}`);
      const { rows } = await client.query<{ file_sha256: string | null; file_rev: number | null }>(
        'select file_sha256, file_rev from master where id = $1 for update',
        [id],
      );
      // A later job may have written a later revision already.
      if (!rows[0] || (rows[0].file_rev ?? 0) > head.rev) return null;
      const written = rows[0].file_sha256;
      const set = this.shelf.put(folder, file, bytes, (standing) => standing === written || standing === sha);
      await client.query('update master set file_sha256 = $2, file_rev = $3 where id = $1', [id, sha, head.rev]);
      return set;
    });
    return aside && `The master's file on the shelf had been changed by another program. It was kept as ${aside}.`;
  }
}

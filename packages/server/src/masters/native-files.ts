import { writePackage } from '@inkwell-twin/core';
import { readBlob, sha256 } from '../blobs/blobs';
import type { Database } from '../database/database';
import type { Shelf } from '../shelf/shelf';
import type { MasterStore } from './store';

/**
 * Writes a master's native file to the shelf. A file there that is not the one we wrote last is someone's work: it is set
 * aside under another name first, never written over.
 * @returns a notice for the person, or null
 */
export async function writeNativeFile(
  database: Database,
  masters: MasterStore,
  shelf: Shelf,
  id: string,
): Promise<string | null> {
  const { folder, head, history, fileSha256 } = await masters.load(id);
  const resources = new Map<string, Uint8Array>();
  for (const { sha256: sha } of await database.rows<{ sha256: string }>('select sha256 from original where master = $1', [id]))
    resources.set(sha, await readBlob(database, sha));
  const bytes = writePackage({ master: head.master, rev: head.rev, time: head.time, history, resources });
  const file = shelf.masterFile(folder);
  const sha = sha256(bytes);
  const standing = shelf.read(folder, file);
  const aside = standing && sha256(standing) !== sha ? shelf.clear(folder, file, fileSha256 ?? '') : null;
  shelf.write(folder, file, bytes);
  await database.pool.query('update master set file_sha256 = $2 where id = $1', [id, sha]);
  return aside ? `The master's file on the shelf had been changed by another program. It was kept as ${aside}.` : null;
}

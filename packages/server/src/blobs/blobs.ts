import { createHash } from 'node:crypto';
import { Failure } from '@inkwell-twin/core';
import type { Queryable } from '../database/database';

/** Size of a chunk, bytes. */
const CHUNK = 256 * 1024;

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Stores bytes under their SHA-256; chunks that are there already are not stored again. @returns the SHA-256 */
export async function storeBlob(client: Queryable, bytes: Uint8Array): Promise<string> {
  const sha = sha256(bytes);
  const added = await client.query('insert into blob (sha256, size) values ($1, $2) on conflict do nothing', [sha, bytes.length]);
  if (!added.rowCount) return sha;
  for (let at = 0, position = 0; at < bytes.length; at += CHUNK, position++) {
    const part = Buffer.from(bytes.subarray(at, at + CHUNK));
    const chunk = sha256(part);
    await client.query('insert into chunk (sha256, bytes) values ($1, $2) on conflict do nothing', [chunk, part]);
    await client.query('insert into blob_chunk (blob, position, chunk) values ($1, $2, $3)', [sha, position, chunk]);
  }
  return sha;
}

/** The bytes of a blob, chunk by chunk, so that a large one is never whole in memory. */
export async function* blobChunks(client: Queryable, sha: string): AsyncGenerator<Buffer> {
  const known = await client.query('select size from blob where sha256 = $1', [sha]);
  if (!known.rowCount) throw new Failure('not-found', `There are no bytes ${sha.slice(0, 12)}… in the store.`);
  for (let position = 0; ; position++) {
    const { rows } = await client.query<{ bytes: Buffer }>(
      'select bytes from blob_chunk join chunk on chunk.sha256 = blob_chunk.chunk where blob = $1 and position = $2',
      [sha, position],
    );
    if (!rows[0]) return;
    yield rows[0].bytes;
  }
}

/** All bytes of a blob. */
export async function readBlob(client: Queryable, sha: string): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of blobChunks(client, sha)) parts.push(part);
  return Buffer.concat(parts);
}

/** Takes away the bytes that no original and no copy needs any more. */
export async function sweepBlobs(client: Queryable): Promise<void> {
  await client.query(
    `delete from blob where not exists (select from original where original.sha256 = blob.sha256)
        and not exists (select from copy where copy.sha256 = blob.sha256)
        and not exists (select from copy_part where copy_part.sha256 = blob.sha256)
        and not exists (select from outside where outside.sha256 = blob.sha256)
        and not exists (select from template_file where template_file.sha256 = blob.sha256)`,
  );
  await client.query('delete from chunk where not exists (select from blob_chunk where blob_chunk.chunk = chunk.sha256)');
}

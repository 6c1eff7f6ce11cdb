import { Zip, ZipPassThrough } from 'fflate';
import { freeName, labelOf } from '@inkwell-twin/core';
import { blobChunks } from '../blobs/blobs';
import type { Queryable } from '../database/database';
import type { CopyRow } from './rows';

/** Nothing in the archive says when it was made: the same copies give the same bytes. */
const FIXED = new Date('1980-01-01T00:00:00');
/** What a list of copies is called in it. */
const LIST = 'list.txt';

/** A file in the archive, and the copy that it is of. */
interface Entry {
  readonly name: string;
  readonly sha256: string;
}

const KNOWN = (verdict: string): string => (verdict === 'not checked' ? 'being checked' : verdict);

/** Which file is which copy, of which revision, how it stands, and its checksum. */
function listOf(title: string, head: number, copies: readonly { row: CopyRow; entries: readonly Entry[] }[]): string {
  const lines = copies.flatMap(({ row, entries }) => [
    `${row.label}: ${labelOf(row.target)}, written at r${row.rev}, ${KNOWN(row.verdict)}`,
    ...entries.map(({ name, sha256 }) => `  ${sha256}  ${name}`),
  ]);
  const left = 'The files are as they were written; what somebody changed on the shelf is not in here.';
  return [`Copies of ${title}, which is at r${head}.`, left, '', ...lines, ''].join('\n');
}

/**
 * The files of copies as they were written, and a list of them, as a zip archive with nothing packed (APPNOTE 4.4.5). Part by part:
 * no file is held as a whole.
 */
export async function* copiesAsZip(
  client: Queryable,
  { title, head }: { readonly title: string; readonly head: number },
  rows: readonly CopyRow[],
): AsyncGenerator<Uint8Array> {
  const ready: Uint8Array[] = [];
  let failed: Error | null = null;
  const zip = new Zip((error, chunk) => (error ? (failed = error) : ready.push(chunk)));
  const taken = [LIST];
  const copies = rows.map((row) => ({
    row,
    entries: [row, ...row.parts].map(({ file, sha256 }): Entry => {
      const name = taken.includes(file) ? freeName(file, taken) : file;
      taken.push(name);
      return { name, sha256 };
    }),
  }));
  const begin = (name: string): ZipPassThrough => {
    const entry = new ZipPassThrough(name);
    entry.mtime = FIXED;
    zip.add(entry);
    return entry;
  };
  begin(LIST).push(new TextEncoder().encode(listOf(title, head, copies)), true);
  for (const { name, sha256 } of copies.flatMap(({ entries }) => entries)) {
    const entry = begin(name);
    for await (const chunk of blobChunks(client, sha256)) {
      entry.push(chunk);
      yield* ready.splice(0);
    }
    entry.push(new Uint8Array(), true);
  }
  zip.end();
  if (failed) throw failed as Error;
  yield* ready;
}

import { Failure, asFailure, type History, type Master, Patch, type RevisionRecord, revisionsOf } from '@inkwell-twin/core';
import type { Database, Queryable } from '../database/database';

export interface LoadedRevision {
  readonly rev: number;
  readonly time: string;
  readonly author: string;
  readonly message: string;
  readonly master: Master;
}

/** A master with all its revisions in memory; they share what did not change between them. */
export interface LoadedMaster {
  readonly id: string;
  readonly title: string;
  readonly folder: string;
  readonly fileSha256: string | null;
  readonly revisions: readonly LoadedRevision[];
  readonly head: LoadedRevision;
  readonly history: History;
}

interface MasterRow {
  id: string;
  title: string;
  folder: string;
  head: number;
  file_sha256: string | null;
}
interface RevisionRow {
  rev: number;
  time: Date;
  author: string;
  message: string;
  patches: unknown;
  document: unknown;
}

const KEPT = 64;

/** Masters and their revisions. Revisions never change, so a loaded history is kept until a newer one is there. */
export class MasterStore {
  private readonly loaded = new Map<string, LoadedMaster>();

  constructor(private readonly database: Database) {}

  async list(): Promise<{ id: string; title: string }[]> {
    return this.database.rows('select id, title from master order by created_at, id');
  }

  /** @throws Failure `not-found` */
  async load(id: string): Promise<LoadedMaster> {
    const [row] = await this.database.rows<MasterRow>('select id, title, folder, head, file_sha256 from master where id = $1', [
      id,
    ]);
    if (!row) throw new Failure('not-found', 'There is no such master on this Desk.');
    const known = this.loaded.get(id);
    if (known?.head.rev === row.head) {
      const current = { ...known, fileSha256: row.file_sha256, folder: row.folder };
      this.loaded.set(id, current);
      return current;
    }
    const rows = await this.database.rows<RevisionRow>(
      'select rev, time, author, message, patches, document from revision where master = $1 order by rev',
      [id],
    );
    const records: RevisionRecord[] = rows.map(({ rev, time, author, message, patches }) => ({
      rev,
      time: time.toISOString(),
      author,
      message,
      patches: Patch.array().parse(patches),
    }));
    // The document was checked when it came in; doing that again costs a second for 20,000 objects.
    const history: History = { first: known?.history.first ?? (rows[0]!.document as Master), revisions: records };
    // What is in memory already is kept as it is, because hashes hang on its very objects.
    const revisions = known ? [...known.revisions] : [];
    const fresh = known ? { first: known.head.master, revisions: records.slice(known.revisions.length) } : history;
    try {
      if (!Array.isArray(fresh.first?.boards)) throw new Failure('patch-invalid', 'The document has no boards.');
      for (const revision of revisionsOf(fresh)) revisions.push(revision);
    } catch (error) {
      throw new Failure(
        'record-damaged',
        `The record of “${row.title}” is damaged at r${revisions.length + 1}: ${asFailure(error).message}`,
      );
    }
    const head = revisions.at(-1)!;
    const master: LoadedMaster = {
      id,
      title: head.master.title,
      folder: row.folder,
      fileSha256: row.file_sha256,
      revisions,
      head,
      history,
    };
    this.loaded.delete(id);
    this.loaded.set(id, master);
    if (this.loaded.size > KEPT) this.loaded.delete(this.loaded.keys().next().value!);
    return master;
  }

  /** A master with its first revisions. */
  async add(client: Queryable, folder: string, { first, revisions }: History): Promise<void> {
    const head = revisions.length;
    await client.query('insert into master (id, title, folder, head) values ($1, $2, $3, $4)', [
      first.id,
      first.title,
      folder,
      head,
    ]);
    for (const record of revisions) await this.addRevision(client, first.id, record, record.rev === 1 ? first : null);
  }

  async addRevision(
    client: Queryable,
    id: string,
    { rev, time, author, message, patches }: RevisionRecord,
    document: Master | null,
  ): Promise<void> {
    await client.query(
      'insert into revision (master, rev, time, author, message, patches, document) values ($1, $2, $3, $4, $5, $6, $7)',
      [id, rev, time, author, message, JSON.stringify(patches), document && JSON.stringify(document)],
    );
  }
}

export const revisionOf = (master: LoadedMaster, rev: number): LoadedRevision => {
  const found = master.revisions[rev - 1];
  if (!found) throw new Failure('not-found', `“${master.title}” has no r${rev}; it has r1 to r${master.head.rev}.`);
  return found;
};

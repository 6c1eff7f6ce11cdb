import {
  Failure,
  asFailure,
  type History,
  type Master,
  Patch,
  type RevisionRecord,
  allItems,
  countWithin,
  partsOf,
  revisionsOf,
} from '@inkwell-twin/core';
import { BoundedCache } from '../compute/cache';
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
  /** Of this bringing-in: an id alone may have had another life before. */
  readonly life: string;
  readonly title: string;
  readonly folder: string;
  readonly fileSha256: string | null;
  readonly revisions: readonly LoadedRevision[];
  readonly head: LoadedRevision;
  readonly history: History;
}

interface MasterRow {
  id: string;
  life: string;
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
  name: string;
  patches: string;
  document: string | null;
}

/** What loaded masters may weigh in one thread, bytes; in memory a document is about five times its text. */
const KEPT_BYTES = 384 * 1024 * 1024;
const WEIGHT = 5;

/** So many named objects of a master are found by name from elsewhere. */
const NAMED = 1_000;

/** An object or a symbol that somebody gave a name. `part` is empty of a symbol. */
interface NamedObject {
  readonly id: string;
  readonly name: string;
  readonly part: string;
}

/** What somebody named in a master: objects by board, symbols. */
export function namedObjects({ boards, symbols }: Master): NamedObject[] {
  const found: NamedObject[] = symbols.map(({ id, name }) => ({ id, name, part: '' }));
  for (const board of boards)
    for (const { id, name } of allItems(board.items)) if (name) found.push({ id, name, part: board.name });
  return found.slice(0, NAMED);
}

/** What is stored of a master beside its revisions, so that lists and names need no document. */
export function rowOfMaster(master: Master): {
  title: string;
  owner: string;
  parts: string;
  objects: number;
  keywords: string[];
  named: string;
} {
  return {
    title: master.title,
    owner: master.owner,
    parts: JSON.stringify(partsOf(master)),
    objects: countObjects(master),
    named: JSON.stringify(namedObjects(master)),
    keywords: [...new Set(master.keywords ?? [])],
  };
}
const countObjects = (master: Master): number => {
  let count = countWithin(master);
  for (const { items } of [...master.boards, ...master.symbols]) for (const _ of allItems(items)) count++;
  return count;
};

/** Masters and their revisions. Revisions never change, so a loaded history is kept until a newer one is there. */
export class MasterStore {
  private readonly loaded = new BoundedCache<{ master: LoadedMaster; bytes: number }>(KEPT_BYTES);

  constructor(private readonly database: Database) {}

  /** @param client the connection to ask by, inside a transaction @throws Failure `not-found`, `record-damaged` */
  async load(id: string, client: Queryable = this.database): Promise<LoadedMaster> {
    const { rows: found } = await client.query<MasterRow>(
      'select id, life, title, folder, head, file_sha256 from master where id = $1',
      [id],
    );
    const row = found[0];
    if (!row) throw new Failure('not-found', 'There is no such master on this Desk.');
    const kept = this.loaded.get(id);
    const known = kept?.master.life === row.life ? kept : undefined;
    if (known?.master.head.rev === row.head) {
      const current = { ...known.master, fileSha256: row.file_sha256, folder: row.folder };
      this.loaded.set(id, { ...known, master: current }, known.bytes);
      return current;
    }
    const from = known && known.master.head.rev < row.head ? known.master : undefined;
    const { rows } = await client.query<RevisionRow>(
      `select rev, time, author, message, name, patches::text, document::text from revision where master = $1 and rev > $2 order by rev`,
      [id, from?.head.rev ?? 0],
    );
    const bytes = rows.reduce((sum, { patches, document }) => sum + WEIGHT * (patches.length + (document?.length ?? 0)), 0);
    const revisions = from ? [...from.revisions] : [];
    const records: RevisionRecord[] = from ? [...from.history.revisions] : [];
    let first = from?.history.first;
    try {
      const fresh = rows.map(({ rev, time, author, message, name, patches }) => ({
        rev,
        time: time.toISOString(),
        author,
        message,
        ...(name ? { name } : {}),
        patches: Patch.array().parse(JSON.parse(patches)),
      }));
      records.push(...fresh);
      // The document was checked when it came in; doing that again costs a second for 20,000 objects.
      first ??= JSON.parse(rows[0]?.document ?? 'null') as Master;
      if (!Array.isArray(first?.boards)) throw new Failure('patch-invalid', 'The document has no boards.');
      // What is in memory already is kept as it is, because hashes hang on its very objects.
      for (const revision of revisionsOf({ first: from?.head.master ?? first, revisions: fresh })) revisions.push(revision);
    } catch (error) {
      throw new Failure(
        'record-damaged',
        `The record of “${row.title}” is damaged at r${revisions.length + 1}: ${asFailure(error).message}`,
      );
    }
    const head = revisions.at(-1)!;
    const master: LoadedMaster = {
      id,
      life: row.life,
      title: head.master.title,
      folder: row.folder,
      fileSha256: row.file_sha256,
      revisions,
      head,
      history: { first, revisions: records },
    };
    const weight = bytes + (from ? known!.bytes : 0);
    this.loaded.set(id, { master, bytes: weight }, weight);
    return master;
  }

  /** A master with its first revisions. `head` is the document that they lead to. */
  async add(client: Queryable, folder: string, { first, revisions }: History, head: Master): Promise<void> {
    const { title, owner, parts, objects, keywords, named } = rowOfMaster(head);
    await client.query(
      'insert into master (id, title, folder, head, owner, part_names, objects, keywords, object_names) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)',
      [first.id, title, folder, revisions.length, owner, parts, objects, keywords, named],
    );
    for (const record of revisions) await this.addRevision(client, first.id, record, record.rev === 1 ? first : null);
  }

  async addRevision(
    client: Queryable,
    id: string,
    { rev, time, author, message, name = '', patches }: RevisionRecord,
    document: Master | null,
  ): Promise<void> {
    await client.query(
      'insert into revision (master, rev, time, author, message, patches, document, name) values ($1, $2, $3, $4, $5, $6, $7, $8)',
      [id, rev, time, author, message, JSON.stringify(patches), document && JSON.stringify(document), name],
    );
  }
}

/** Who goes on from what an earlier life of a master was is told, and asks anew. @throws Failure `conflict` */
export function assertLife(life: string, asked: unknown): void {
  if (asked !== undefined && asked !== life)
    throw new Failure('conflict', 'This master was deleted and brought in again meanwhile. What is here now is asked for anew.');
}

export const revisionOf = (master: LoadedMaster, rev: number): LoadedRevision => {
  const found = master.revisions[rev - 1];
  if (!found) throw new Failure('not-found', `“${master.title}” has no r${rev}; it has r1 to r${master.head.rev}.`);
  return found;
};

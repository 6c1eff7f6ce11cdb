import {
  Failure,
  type History,
  type NativePackage,
  type Patch,
  applyPatches,
  linkedIn,
  revisionsOf,
  writePackage,
} from '@inkwell-twin/core';
import { readBlob, sha256 } from '../blobs/blobs';
import { type Database, lockInTransaction } from '../database/database';
import type { Shelf } from '../shelf/shelf';
import type { MasterStore } from './store';

/** How many files that were about to be written are remembered of a master: as many writers as are cut off one after the other. */
const MEANT = 20;

/** The masters' native files on the shelf. They follow the database off the request path, as jobs. */
export class NativeFiles {
  constructor(
    private readonly database: Database,
    private readonly masters: MasterStore,
    private readonly shelf: Shelf,
  ) {}

  /** The files that a master keeps, by SHA-256. @param without those that lie beside it and not in it */
  private async resources(id: string, without: readonly { readonly id: string }[]): Promise<Map<string, Uint8Array>> {
    const outside = new Set(without.map((one) => one.id));
    const found = new Map<string, Uint8Array>();
    for (const { sha256: sha } of await this.database.rows<{ sha256: string }>('select sha256 from original where master = $1', [
      id,
    ]))
      if (!outside.has(sha)) found.set(sha, await readBlob(this.database, sha));
    return found;
  }

  /** A master as a file to take along: with all that it shows in it, or with its links as they are. */
  async package(id: string, form: 'whole' | 'light'): Promise<Uint8Array> {
    const { head, history } = await this.masters.load(id);
    const links = linkedIn(head.master);
    if (form === 'light') {
      // What was linked at some time lies outside, also as it was then: it would make the light form a heavy one by and by.
      const ever = [...revisionsOf(history)].flatMap(({ master }) => linkedIn(master));
      const inside = new Set(head.master.resources.filter(({ link }) => link === undefined).map((one) => one.id));
      const outside = [...links, ...ever].filter((one) => !inside.has(one.id));
      return this.written(id, head, history, await this.resources(id, outside));
    }
    const resources = await this.resources(id, []);
    const lacking = links.find((one) => !resources.has(one.id));
    if (lacking)
      throw new Failure(
        'resource-missing',
        `${lacking.name} is linked, and its bytes were never here. Mend its link first, or take the light form.`,
        { node: lacking.id },
      );
    // All of it lies inside, and the history leads there.
    const patches: Patch[] = links.map((one) => ({ op: 'set', node: one.id, attribute: 'link', value: undefined }));
    if (!patches.length) return this.written(id, head, history, resources);
    const record = {
      rev: head.rev + 1,
      time: head.time,
      author: history.revisions.at(-1)!.author,
      message: 'All that was linked is part of the master',
      patches,
    };
    const next = { master: applyPatches(head.master, patches).master, rev: head.rev + 1, time: head.time };
    return this.written(id, next, { ...history, revisions: [...history.revisions, record] }, resources);
  }

  private async written(
    id: string,
    { master, rev, time }: Pick<NativePackage, 'master' | 'rev' | 'time'>,
    history: History,
    resources: ReadonlyMap<string, Uint8Array>,
  ): Promise<Uint8Array> {
    // Names are given to revisions that are known already: they are asked for, not remembered.
    const named = await this.database.rows<{ rev: number; name: string }>('select rev, name from revision where master = $1', [
      id,
    ]);
    const names = new Map(named.map(({ rev: of, name }) => [of, name]));
    const revisions = history.revisions.map(({ name: _old, ...one }) => {
      const name = names.get(one.rev);
      return name ? { ...one, name } : one;
    });
    return writePackage({ master, rev, time, history: { ...history, revisions }, resources });
  }

  /**
   * Writes a master's file. The old one stands until the new one is whole and flushed. One that stands there and is not the one
   * we wrote last is someone's work: it gets another name, and is never written over.
   * @returns words for people about a file that was set aside, or null
   */
  async write(id: string): Promise<string | null> {
    const { life, head, history } = await this.masters.load(id);
    const resources = await this.resources(id, linkedIn(head.master));
    const bytes = await this.written(id, head, history, resources);
    const sha = sha256(bytes);
    // On record before it stands there: whoever is cut off in between left a file of ours, and nobody else's.
    await this.database.query(
      `update master set file_meant = (array_append(array_remove(file_meant, $2), $2))[greatest(1, cardinality(file_meant) - ${MEANT - 2}):]
        where id = $1 and life = $3`,
      [id, sha, life],
    );
    const aside = await this.database.transaction(async (client) => {
      await lockInTransaction(client, `shelf of ${id}`);
      const { rows } = await client.query<{
        life: string;
        file_sha256: string | null;
        file_rev: number | null;
        file_taken: string | null;
        file_meant: string[];
        folder: string;
        older: object | null;
      }>('select life, file_sha256, file_rev, file_taken, file_meant, folder, older from master where id = $1 for update', [id]);
      // A later job may have written a later revision already, or the master was deleted and brought in again.
      if (rows[0]?.life !== life || (rows[0].file_rev ?? 0) > head.rev) return null;
      // One that was opened from an older version lies beside it from its first update on.
      if (rows[0].older && head.rev === 1) return null;
      const { folder, file_sha256: written, file_taken: taken, file_meant: meant } = rows[0];
      const set = this.shelf.put(folder, this.shelf.masterFile(folder), bytes, (standing) =>
        [written, taken, sha, ...meant].includes(standing),
      );
      const stamp = this.shelf.stamp(folder, this.shelf.masterFile(folder));
      await client.query(
        `update master set file_sha256 = $2, file_rev = $3, file_stamp = $4, file_meant = array_remove(file_meant, $2)
          where id = $1`,
        [id, sha, head.rev, stamp],
      );
      return set;
    });
    return aside && `The master's file on the shelf had been changed by another program. It was kept as ${aside}.`;
  }
}

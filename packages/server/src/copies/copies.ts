import { randomUUID } from 'node:crypto';
import type { MatchView } from '@inkwell-twin/api';
import { type CheckResult, Failure, type FontBook, checkCopy, derive, footprintOfRecipe, freeName } from '@inkwell-twin/core';
import { sha256, storeBlob } from '../blobs/blobs';
import { type Database, type Queryable, lockInTransaction } from '../database/database';
import { type LoadedMaster, type MasterStore, revisionOf } from '../masters/store';
import type { Shelf, Standing as OnShelf } from '../shelf/shelf';
import { namesOnRecord, plainName } from './names';
import { type CopyRow, IN_ORDER, SELECT_COPIES, recipeOfRow, viewOfRow } from './rows';
import { keepStandings, standingAt } from './standings';

/** Copies: deriving them, checking them, and how they stand. Runs in worker threads. */
export class Copies {
  constructor(
    private readonly database: Database,
    private readonly masters: MasterStore,
    private readonly shelf: Shelf,
    private readonly fonts: () => FontBook,
  ) {}

  /** @throws Failure `not-found` */
  async find(id: string, client: Queryable = this.database): Promise<CopyRow> {
    const { rows } = await client.query<CopyRow>(`${SELECT_COPIES} where id = $1`, [id]);
    if (!rows[0]) throw new Failure('not-found', 'This copy is not on the list any more: it was derived again or withdrawn.');
    return rows[0];
  }

  /**
   * Finds how each live copy of a master stands at its head.
   * @returns the copies whose verdict is not known there any more
   */
  async stand(client: Queryable, master: string): Promise<string[]> {
    const loaded = await this.masters.load(master, client);
    const { rows } = await client.query<CopyRow>(`${SELECT_COPIES} where master = $1 ${IN_ORDER}`, [master]);
    await keepStandings(
      client,
      rows.map((row) => [row.id, standingAt(loaded, row)] as const),
    );
    const { rows: unknown } = await client.query<{ id: string }>(
      `select id from copy_now where master = $1 and verdict = 'not checked' ${IN_ORDER}`,
      [master],
    );
    return unknown.map(({ id }) => id);
  }

  /**
   * Derives a copy and puts it on the shelf. The copy that this recipe had there goes, unless someone changed it: then it is set aside.
   * Nothing else is ever written over. Two processes at the same folder take turns.
   * @returns the copy's id
   */
  async derive(masterId: string, recipeId: string, rev?: number): Promise<string> {
    const master = await this.masters.load(masterId);
    const [row] = await this.database.rows<CopyRow>(
      'select id as recipe, master, label, target, options, board, pattern from recipe where id = $1 and master = $2',
      [recipeId, masterId],
    );
    if (!row) throw new Failure('not-found', 'There is no such recipe any more.');
    const recipe = recipeOfRow(row);
    const at = rev ? revisionOf(master, rev) : master.head;
    const made = derive({ master: at.master, rev: at.rev, time: at.time }, recipe, this.fonts());
    if (made.defects.length)
      throw new Failure(
        'defect',
        `The copy was not written: read back, it says something else than the master (${made.defects[0]!.what}: ${made.defects[0]!.kind}). This is a defect of ours.`,
      );
    const named = {
      id: masterId,
      folder: master.folder,
      head: at.rev,
      owner: at.master.owner,
      boards: at.master.boards.map(({ id, name }) => ({ id, name })),
    };
    const wanted = plainName(named, recipe, row.label, at.rev, row.pattern);
    const made256 = sha256(made.bytes);
    const id = randomUUID();
    const old = await this.database.transaction(async (client) => {
      await lockInTransaction(client, `shelf ${master.folder}`);
      const { rows } = await client.query<{ id: string; file: string; sha256: string }>(
        "select id, file, sha256 from copy where recipe = $1 and state = 'live'",
        [recipeId],
      );
      const before = rows[0];
      const standing = this.shelf.read(master.folder, wanted);
      const taken = [...this.shelf.files(master.folder), ...(await namesOnRecord(client, masterId, recipeId))];
      // Under the same name the new file replaces the old one; the same bytes there are a copy of ours whose record was lost in a crash.
      const keepsName = before?.file === wanted || (standing !== null && sha256(standing) === made256);
      const file = keepsName ? wanted : freeName(wanted, taken);
      this.shelf.put(
        master.folder,
        file,
        made.bytes,
        (sha) => sha === made256 || (before?.file === file && sha === before.sha256),
      );
      const blob = await storeBlob(client, made.bytes);
      await client.query("update copy set state = 'superseded' where recipe = $1 and state = 'live'", [recipeId]);
      await client.query(
        "insert into copy (id, recipe, rev, file, sha256, size, says, footprint, state) values ($1, $2, $3, $4, $5, $6, $7, $8, 'live')",
        [id, recipeId, at.rev, file, blob, made.bytes.length, made.says, footprintOfRecipe(at.master, recipe)],
      );
      return before && before.file !== file ? before : undefined;
    });
    // Only now, with the new copy on disk and on record, does the old file go.
    if (old) this.shelf.clear(master.folder, old.file, old.sha256);
    await this.check(id);
    return id;
  }

  private async run(row: CopyRow, master: LoadedMaster, always: boolean): Promise<{ result: CheckResult; found: OnShelf }> {
    const recipe = recipeOfRow(row);
    const found = this.lookAt(row);
    if (found.kind === 'other') return { result: notAFile(found.words), found };
    const bytes = found.kind === 'file' ? found.bytes : null;
    const whole = bytes !== null && sha256(bytes) === row.sha256;
    const then = revisionOf(master, row.rev).master;
    const now = master.head.master;
    const fresh = footprintOfRecipe(now, recipe) === footprintOfRecipe(then, recipe);
    const input = { bytes, whole, says: row.says, now, then, recipe, fresh };
    return { result: checkCopy(input, this.fonts(), always), found };
  }

  private lookAt({ folder, file }: CopyRow): OnShelf {
    try {
      return this.shelf.look(folder, file);
    } catch (error) {
      if (error instanceof Failure && error.code === 'link-refused') return { kind: 'other', words: error.message };
      throw error;
    }
  }

  /** Checks a copy and keeps the verdict. */
  async check(id: string): Promise<void> {
    const row = await this.find(id);
    const master = await this.masters.load(row.master);
    const { result, found } = await this.run(row, master, false);
    const standing = standingAt(master, row);
    await this.database.transaction(async (client) => {
      await keepStandings(client, [[id, standing]]);
      await client.query(
        `update standing set verdict = $2, remark = $3, proof = $4, checked_footprint = $5, file_sha256 = $6, file_stamp = $7,
                checked_at = now()
          where copy = $1 and head = $8`,
        [
          id,
          result.verdict,
          result.remark,
          result.proof,
          standing.footprint,
          found.kind === 'file' ? sha256(found.bytes) : null,
          found.kind === 'file' ? found.stamp : this.shelf.stamp(row.folder, row.file),
          standing.head,
        ],
      );
    });
  }

  /** A full comparison with both sides, for showing. */
  async match(id: string): Promise<MatchView> {
    const row = await this.find(id);
    const master = await this.masters.load(row.master);
    const { result } = await this.run(row, master, true);
    const { whole, fresh, true: says, outlines, equal, differences, sides } = result;
    const view = viewOfRow(row);
    const settled =
      view.verdict === 'accepted' ? view : { ...view, verdict: result.verdict, remark: result.remark, proof: result.proof };
    return {
      copy: settled,
      whole,
      fresh,
      true: says,
      outlines,
      equal,
      tolerance: recipeOfRow(row).target.tolerance,
      differences: differences as MatchView['differences'],
      sides: sides as MatchView['sides'],
    };
  }

  async accept(id: string, by: string, reason: string): Promise<void> {
    const row = await this.find(id);
    const master = await this.masters.load(row.master);
    const found = this.lookAt(row);
    if (found.kind !== 'file')
      throw new Failure('conflict', 'A copy that is gone has nothing to accept. Derive it again, or withdraw it.');
    await this.database.query(
      `insert into acceptance (copy, accepted_by, reason, file_sha256, footprint) values ($1, $2, $3, $4, $5)
       on conflict (copy) do update set accepted_by = $2, reason = $3, file_sha256 = $4, footprint = $5, at = now()`,
      [id, by, reason, sha256(found.bytes), footprintOfRecipe(master.head.master, recipeOfRow(row))],
    );
  }
}

/** What stands there can't be read as a copy at all. */
const notAFile = (words: string): CheckResult => ({
  verdict: 'unreadable',
  remark: '',
  whole: false,
  fresh: null,
  true: null,
  proof: `It can’t be read: ${words}.`.replace(/\.\.$/, '.'),
  differences: [],
  outlines: 0,
  equal: 0,
  sides: null,
});

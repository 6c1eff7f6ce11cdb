import { randomUUID } from 'node:crypto';
import type { CopyView, MatchView } from '@inkwell-twin/api';
import {
  type CheckResult,
  DEFAULT_PATTERN,
  Failure,
  type Recipe,
  findBoard,
  fileName,
  footprintOfRecipe,
  freeName,
} from '@inkwell-twin/core';
import { sha256, storeBlob } from '../blobs/blobs';
import type { Compute } from '../compute/compute';
import type { Database, Queryable } from '../database/database';
import { type LoadedMaster, type LoadedRevision, type MasterStore, revisionOf } from '../masters/store';
import type { Shelf } from '../shelf/shelf';
import { type CopyRow, SELECT_COPIES, dataOf, recipeOfRow } from './rows';
import { spanOf } from './spans';

/** Copies: deriving them, checking them, and how they stand. */
export class Copies {
  constructor(
    private readonly database: Database,
    private readonly masters: MasterStore,
    private readonly shelf: Shelf,
    private readonly compute: Compute,
  ) {}

  async ofMaster(master: string): Promise<CopyRow[]> {
    return this.database.rows<CopyRow>(`${SELECT_COPIES} and recipe.master = $1 order by recipe.created_at, recipe.id`, [master]);
  }

  /** @throws Failure `not-found` */
  async find(id: string): Promise<CopyRow> {
    const [row] = await this.database.rows<CopyRow>(`${SELECT_COPIES} and copy.id = $1`, [id]);
    if (!row) throw new Failure('not-found', 'This copy is not on the list any more: it was derived again or withdrawn.');
    return row;
  }

  async byFile(folder: string, file: string): Promise<CopyRow | undefined> {
    const [row] = await this.database.rows<CopyRow>(`${SELECT_COPIES} and master.folder = $1 and copy.file = $2`, [folder, file]);
    return row;
  }

  async addRecipe(client: Queryable, master: string, label: string, recipe: Recipe): Promise<void> {
    await client.query(
      'insert into recipe (id, master, label, target, options, board, pattern) values ($1, $2, $3, $4, $5, $6, $7)',
      [recipe.id, master, label, recipe.target.id, JSON.stringify(recipe.options), recipe.board, DEFAULT_PATTERN],
    );
  }

  /** The name that a copy of this recipe would get at a revision, before looking at what is there. */
  plainName(master: LoadedMaster, recipe: Recipe, label: string, rev: number, pattern = DEFAULT_PATTERN): string {
    const document = master.head.master;
    const board = document.boards.length > 1 ? (findBoard(document, recipe.board)?.name ?? '') : '';
    const parts = { title: label, board, rev, version: recipe.target.version(recipe.options), owner: document.owner };
    return fileName(pattern, parts, recipe.target.extension);
  }

  /** Names in a master's folder that a new copy can't have: what lies there, and what live copies are called. */
  private async takenNames({ id, folder }: LoadedMaster, except = ''): Promise<string[]> {
    const reserved = await this.database.rows<{ file: string }>(
      "select file from copy join recipe on recipe.id = copy.recipe where recipe.master = $1 and recipe.id <> $2 and copy.state = 'live'",
      [id, except],
    );
    return [...this.shelf.files(folder), ...reserved.map(({ file }) => file)];
  }

  /** The name that a new copy gets where it would like to be called `wanted`. */
  async freeNameFor(master: LoadedMaster, wanted: string): Promise<string> {
    return freeName(wanted, await this.takenNames(master));
  }

  async dropEmptyRecipe(id: string): Promise<void> {
    await this.database.pool.query('delete from recipe where id = $1 and not exists (select from copy where recipe = $1)', [id]);
  }

  /**
   * Derives a copy and puts it on the shelf. The copy that this recipe had there goes, unless someone changed it: then it is set aside.
   * Nothing else is ever written over. @returns the copy's id
   */
  async derive(masterId: string, recipeId: string, rev?: number): Promise<string> {
    const master = await this.masters.load(masterId);
    const [row] = await this.database.rows<CopyRow>(
      'select id as recipe, master, label, target, options, board, pattern from recipe where id = $1 and master = $2',
      [recipeId, masterId],
    );
    if (!row) throw new Failure('not-found', 'There is no such recipe any more.');
    const recipe = recipeOfRow(row);
    const at: LoadedRevision = rev ? revisionOf(master, rev) : master.head;
    const made = await this.compute.run('derive', {
      master: at.master,
      rev: at.rev,
      time: at.time,
      recipe: dataOf(recipe),
    });
    if (made.defects.length)
      throw new Failure(
        'defect',
        `The copy was not written: read back, it says something else than the master (${made.defects[0]!.what}: ${made.defects[0]!.kind}). This is a defect of ours.`,
      );
    const [before] = await this.database.rows<{ id: string; file: string; sha256: string }>(
      "select id, file, sha256 from copy where recipe = $1 and state = 'live'",
      [recipeId],
    );
    const wanted = this.plainName(master, recipe, row.label, at.rev, row.pattern);
    const replaces = before?.file === wanted;
    // Under the same name the new file replaces the old one in one step, unless someone changed that: then it is set aside first.
    if (before && replaces && sha256(this.shelf.read(master.folder, wanted) ?? new Uint8Array()) !== before.sha256)
      this.shelf.clear(master.folder, wanted, before.sha256);
    const standing = this.shelf.read(master.folder, wanted);
    const taken = await this.takenNames(master, recipeId);
    // The same bytes under the wanted name are a copy of ours whose record was lost in a crash.
    const file = replaces || (standing && Buffer.compare(standing, made.bytes) === 0) ? wanted : freeName(wanted, taken);
    this.shelf.write(master.folder, file, made.bytes);
    const id = randomUUID();
    await this.database.transaction(async (client) => {
      await client.query("update copy set state = 'superseded' where recipe = $1 and state = 'live'", [recipeId]);
      const sha = await storeBlob(client, made.bytes);
      await client.query(
        "insert into copy (id, recipe, rev, file, sha256, size, says, footprint, state) values ($1, $2, $3, $4, $5, $6, $7, $8, 'live')",
        [id, recipeId, at.rev, file, sha, made.bytes.length, made.says, footprintOfRecipe(at.master, recipe)],
      );
    });
    // Only now, with the new copy on disk and on record, does the old file go.
    if (before && before.file !== file) this.shelf.clear(master.folder, before.file, before.sha256);
    await this.check(id);
    return id;
  }

  private async run(row: CopyRow, always: boolean): Promise<{ result: CheckResult; file: string | null; master: LoadedMaster }> {
    const master = await this.masters.load(row.master);
    const recipe = recipeOfRow(row);
    const bytes = this.shelf.read(row.folder, row.file);
    const file = bytes && sha256(bytes);
    const whole = file === row.sha256;
    const then = revisionOf(master, row.rev).master;
    const now = master.head.master;
    const fresh = footprintOfRecipe(now, recipe) === footprintOfRecipe(then, recipe);
    if (whole && fresh && !always) {
      const proof = 'The bytes are as written, and nothing that this copy carries has changed since.';
      return {
        master,
        file,
        result: {
          verdict: 'in step',
          remark: '',
          whole,
          fresh,
          true: true,
          proof,
          differences: [],
          outlines: 0,
          equal: 0,
          sides: null,
        },
      };
    }
    const result = await this.compute.run('check', {
      bytes,
      whole,
      says: row.says,
      now,
      then,
      recipe: dataOf(recipe),
      always,
      fresh,
    });
    return { result, file, master };
  }

  /** Checks a copy and keeps the verdict. */
  async check(id: string): Promise<void> {
    const row = await this.find(id);
    const { result, file, master } = await this.run(row, false);
    await this.database.pool.query(
      'insert into match_check (copy, head, file_sha256, verdict, remark, proof, differences) values ($1, $2, $3, $4, $5, $6, $7)',
      [id, master.head.rev, file, result.verdict, result.remark, result.proof, JSON.stringify(result.differences.slice(0, 500))],
    );
  }

  /** A full comparison with both sides, for showing. */
  async match(id: string): Promise<MatchView> {
    const row = await this.find(id);
    const { result } = await this.run(row, true);
    const master = await this.masters.load(row.master);
    const { whole, fresh, true: says, outlines, equal, differences, sides } = result;
    const view = this.view(row, master);
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
    const bytes = this.shelf.read(row.folder, row.file);
    if (!bytes) throw new Failure('conflict', 'A copy that is gone has nothing to accept. Derive it again, or withdraw it.');
    await this.database.pool.query(
      `insert into acceptance (copy, accepted_by, reason, file_sha256, footprint) values ($1, $2, $3, $4, $5)
       on conflict (copy) do update set accepted_by = $2, reason = $3, file_sha256 = $4, footprint = $5, at = now()`,
      [id, by, reason, sha256(bytes), footprintOfRecipe(master.head.master, recipeOfRow(row))],
    );
  }

  async withdraw(id: string): Promise<void> {
    const row = await this.find(id);
    await this.database.pool.query("update copy set state = 'withdrawn' where id = $1", [row.id]);
  }

  /** A copy as it is shown. A stored verdict counts as long as the footprint has not changed since it was found. */
  view(row: CopyRow, master: LoadedMaster): CopyView {
    const recipe = recipeOfRow(row);
    const now = footprintOfRecipe(master.head.master, recipe);
    const span = spanOf(master, recipe, row.rev);
    const checkedAt = row.check_head === null ? undefined : master.revisions[row.check_head - 1]?.master;
    const current = checkedAt !== undefined && footprintOfRecipe(checkedAt, recipe) === now;
    const verdict = current ? row.verdict! : 'not checked';
    const accepted = row.accepted_by !== null && row.accepted_file === row.check_file && row.accepted_footprint === now;
    const isAccepted = accepted && current && verdict !== 'in step' && verdict !== 'gone';
    return {
      id: row.id,
      recipe: row.recipe,
      label: row.label,
      group: recipe.target.purpose(recipe.options),
      target: recipe.target.id,
      targetLabel: recipe.target.label,
      options: recipe.options,
      board: row.board,
      file: row.file,
      size: Number(row.size),
      rev: row.rev,
      until: verdict === 'in step' ? master.head.rev : span.until,
      endedBy: verdict === 'in step' ? null : span.endedBy,
      verdict: (isAccepted ? 'accepted' : verdict) as CopyView['verdict'],
      remark: current ? row.remark! : '',
      proof: current ? row.proof! : 'A check of this copy is under way.',
      checkedAt: row.checked_at?.toISOString() ?? null,
      accepted: isAccepted ? { by: row.accepted_by!, reason: row.reason!, at: row.accepted_at!.toISOString() } : null,
    };
  }
}

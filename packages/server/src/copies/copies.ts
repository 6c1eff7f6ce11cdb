import { randomUUID } from 'node:crypto';
import type { SeenView } from '@inkwell-twin/api';
import {
  type CheckResult,
  type CopyFile,
  Failure,
  type Services,
  checkCopy,
  declarationOf,
  derive,
  footprintHash,
  freeName,
  likenessOf,
  locked,
  partName,
  partsOf,
  project,
  recognise,
} from '@inkwell-twin/core';
import { sha256, storeBlob } from '../blobs/blobs';
import { type Database, type Queryable, lockInTransaction } from '../database/database';
import { namingOfHouse } from '../house/house';
import { type LoadedMaster, type MasterStore, revisionOf } from '../masters/store';
import type { Shelf, Standing as OnShelf } from '../shelf/shelf';
import { type Match, matchOf } from './match-wire';
import { namesOnRecord, plainName } from './names';
import { passwordOf, passwordsOf } from './recipes';
import { type CopyRow, IN_ORDER, SELECT_COPIES, namesOf, recipeOfRow, viewOfRow } from './rows';
import { seenBy } from './seen';
import { giveWay } from './standing-file';
import { keepStandings, standingAt } from './standings';

/** A file that changes at every look is judged by the last one. */
const LOOKS = 4;

/** Copies: deriving them, checking them, and how they stand. Runs in worker threads. */
export class Copies {
  constructor(
    private readonly database: Database,
    private readonly masters: MasterStore,
    private readonly shelf: Shelf,
    private readonly services: () => Services,
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
    const [row] = await this.database.rows<CopyRow & { replaces: boolean }>(
      'select id as recipe, master, label, target, options, scope, choices, row, pattern, replaces from recipe where id = $1 and master = $2',
      [recipeId, masterId],
    );
    if (!row) throw new Failure('not-found', 'There is no such recipe any more.');
    const recipe = recipeOfRow(row);
    const at = rev ? revisionOf(master, rev) : master.head;
    const password = await passwordOf(this.database, recipeId);
    const plain = await derive({ master: at.master, rev: at.rev, time: at.time }, recipe, this.services());
    const made = password === undefined ? plain : await locked(plain, recipe, password, this.services());
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
      parts: partsOf(at.master),
      time: at.time,
    };
    const wanted = plainName(named, recipe, row.label, at.rev, await namingOfHouse(this.database));
    const shas = made.files.map(({ bytes }) => sha256(bytes));
    const id = randomUUID();
    const old = await this.database.transaction(async (client) => {
      const folder = await turnAtFolder(client, masterId, recipeId);
      // Who withdraws it waits until this copy is on record, and finds it there.
      const { rows: asked } = await client.query<{ withdrawn: boolean }>(
        'select withdrawn_at is not null as withdrawn from recipe where id = $1 for share',
        [recipeId],
      );
      if (asked[0]?.withdrawn !== false)
        throw new Failure('withdrawn', 'This copy was withdrawn meanwhile. Nothing was written.');
      const { rows } = await client.query<Pick<CopyRow, 'id' | 'file' | 'sha256' | 'parts'>>(
        'select id, file, sha256, parts from copy_now where recipe = $1',
        [recipeId],
      );
      const before = rows[0];
      // What was chosen when it was asked for counts once, and never for the master’s own file.
      const replaces = !before && row.replaces && wanted !== this.shelf.masterFile(folder);
      const mine = before
        ? [{ file: before.file, sha256: before.sha256 }, ...before.parts]
        : replaces
          ? await giveWay(client, masterId, wanted)
          : [];
      const standing = this.shelf.read(folder, wanted);
      const recorded = await namesOnRecord(client, masterId, recipeId);
      const taken = [...this.shelf.files(folder), ...recorded];
      // Under the same name the new files replace the old ones; the same bytes there are a copy of ours whose record was lost in a crash.
      const keepsName = before?.file === wanted || (standing !== null && sha256(standing) === shas[0]);
      const file = keepsName || (replaces && !recorded.includes(wanted)) ? wanted : freeName(wanted, taken);
      const files = made.files.map(({ part }) => partName(file, part));
      files.forEach((name, i) =>
        this.shelf.put(
          folder,
          name,
          made.files[i]!.bytes,
          (sha) => sha === shas[i] || mine.some((one) => one.file === name && one.sha256 === sha),
        ),
      );
      for (const { bytes } of made.files) await storeBlob(client, bytes);
      await client.query("update copy set state = 'superseded' where recipe = $1 and state = 'live'", [recipeId]);
      await client.query(
        `insert into copy (id, recipe, rev, file, sha256, size, says, footprint, writer, likeness, password, state)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, 'live')`,
        [
          id,
          recipeId,
          at.rev,
          file,
          shas[0],
          made.files.reduce((sum, { bytes }) => sum + bytes.length, 0),
          made.says,
          footprintHash(at.master, recipe),
          declarationOf(recipe.target).writer,
          likenessOf(made.back),
          password ?? null,
        ],
      );
      for (const [position, name] of files.entries())
        if (position)
          await client.query('insert into copy_part (copy, position, part, file, sha256) values ($1, $2, $3, $4, $5)', [
            id,
            position,
            made.files[position]!.part,
            name,
            shas[position],
          ]);
      // A picture may stand beside several copies.
      const others = new Set(await namesOnRecord(client, masterId, recipeId));
      return { folder, files: mine.filter((one) => !files.includes(one.file) && !others.has(one.file)) };
    });
    // Only now, with the new copy on disk and on record, do the old files go.
    for (const one of old.files) this.shelf.clear(old.folder, one.file, one.sha256);
    await this.check(id);
    return id;
  }

  /**
   * Puts a file in the place of a copy: what came back from outside is this copy from now on, and is checked as such. What was
   * written there is kept, and what somebody else left there gets another name.
   * @throws Failure `not-found`, `other-target` where it is of another format
   */
  async attach(id: string, bytes: Uint8Array, name: string): Promise<void> {
    const row = await this.find(id);
    const found = recognise(bytes);
    if (found?.id !== row.target)
      throw new Failure(
        'other-target',
        `“${name}” is ${found ? found.label : 'of no format that we know'}; “${row.file}” is ${declarationOf(row.target).label}. Nothing was changed.`,
      );
    await this.database.transaction(async (client) => {
      const folder = await turnAtFolder(client, row.master, row.recipe);
      const now = await this.find(id, client);
      this.shelf.put(folder, now.file, bytes, (sha) => sha === now.sha256);
    });
    await this.check(id);
  }

  private async run(row: CopyRow, master: LoadedMaster, always: boolean): Promise<{ result: CheckResult; found: Found }> {
    const recipe = recipeOfRow(row);
    const found = this.lookAt(row);
    if (found.other) return { result: notAFile(found.other), found };
    const baseline = revisionOf(master, row.rev).master;
    const current = master.head.master;
    const unchanged = footprintHash(current, recipe) === footprintHash(baseline, recipe);
    const password = row.locked ? (await passwordsOf(this.database, row.recipe))[0] : undefined;
    const input = { password, files: found.files, intact: found.intact, says: row.says, current, baseline, recipe, unchanged };
    return { result: await checkCopy(input, this.services(), always), found };
  }

  /** What stands in the places of a copy's files. A further file that is missing is for the comparison to find. */
  private lookAt({ folder, file, sha256: written, parts }: CopyRow): Found {
    const files: CopyFile[] = [];
    const stamps: string[] = [];
    const shas: string[] = [];
    let intact = true;
    for (const one of [{ part: '', file, sha256: written }, ...parts]) {
      const found = this.lookOne(folder, one.file);
      if (found.kind === 'other') return { files: null, intact: false, sha256: null, stamp: '', other: found.words };
      if (found.kind === 'nothing') {
        if (!one.part) return { files: null, intact: false, sha256: null, stamp: '', other: null };
        intact = false;
        stamps.push('');
        continue;
      }
      const sha = sha256(found.bytes);
      intact &&= sha === one.sha256;
      files.push({ part: one.part, bytes: found.bytes });
      stamps.push(found.stamp);
      shas.push(sha);
    }
    return {
      files,
      intact,
      sha256: parts.length ? sha256(Buffer.from(shas.join())) : shas[0]!,
      stamp: stamps.join('|'),
      other: null,
    };
  }

  private lookOne(folder: string, file: string): OnShelf {
    try {
      return this.shelf.look(folder, file);
    } catch (error) {
      if (error instanceof Failure && error.code === 'link-refused') return { kind: 'other', words: error.message };
      throw error;
    }
  }

  /** Checks a copy and keeps the verdict. What moved or changed in the meantime is looked at again. */
  async check(id: string): Promise<void> {
    for (let looks = 1; !(await this.checkOnce(id, looks === LOOKS)); looks++);
  }

  /** @param evenSo whether the verdict is kept although the files are not as they were when they were looked at */
  private async checkOnce(id: string, evenSo: boolean): Promise<boolean> {
    const row = await this.find(id);
    const master = await this.masters.load(row.master);
    const { result, found } = await this.run(row, master, false);
    const standing = standingAt(master, row);
    return this.database.transaction(async (client) => {
      const folder = await turnAtFolder(client, row.master, row.recipe);
      const stamp = this.shelf.stamps(folder, namesOf(row));
      const asLooked = found.files ? stamp === found.stamp : found.other !== null || !this.shelf.stamp(folder, row.file);
      if (!evenSo && (folder !== row.folder || !asLooked)) return false;
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
          found.sha256,
          found.files ? found.stamp : stamp,
          standing.head,
        ],
      );
      return true;
    });
  }

  /** A full comparison, and both sides of one part of the copy, packed, for showing. */
  async match(id: string, leaf: number): Promise<Match> {
    const row = await this.find(id);
    const master = await this.masters.load(row.master);
    const { result } = await this.run(row, master, true);
    const view = viewOfRow(row);
    const settled =
      view.verdict === 'accepted' ? view : { ...view, verdict: result.verdict, remark: result.remark, proof: result.proof };
    return matchOf(result, row.target, leaf, settled);
  }

  /**
   * What a program of an older version sees of a copy, beside what the copy was to say when it was written.
   * @param reader by its name; `own` is of the copy's own version
   */
  async seen(id: string, reader: string): Promise<SeenView> {
    const row = await this.find(id);
    const found = this.lookAt(row);
    const [file] = found.files ?? [];
    if (!file)
      throw new Failure('not-found', found.other ?? 'There is no file of this copy on the shelf, so nobody can open it.');
    const recipe = recipeOfRow(row);
    const { master } = revisionOf(await this.masters.load(row.master), row.rev);
    return seenBy(reader, file.bytes, recipe, async () => (await project(master, recipe, this.services())).projection);
  }

  async accept(id: string, by: string, reason: string): Promise<void> {
    const row = await this.find(id);
    const master = await this.masters.load(row.master);
    const found = this.lookAt(row);
    if (!found.files)
      throw new Failure('conflict', 'A copy that is gone has nothing to accept. Derive it again, or withdraw it.');
    await this.database.query(
      `insert into acceptance (copy, accepted_by, reason, file_sha256, footprint) values ($1, $2, $3, $4, $5)
       on conflict (copy) do update set accepted_by = $2, reason = $3, file_sha256 = $4, footprint = $5, at = now()`,
      [id, by, reason, found.sha256, footprintHash(master.head.master, recipeOfRow(row))],
    );
  }
}

/** Where a recipe's copies lie, held until the transaction ends: who moves the master waits, and what moved is found where it is. */
async function turnAtFolder(client: Queryable, master: string, recipe: string): Promise<string> {
  await lockInTransaction(client, `shelf of ${master}`);
  const { rows } = await client.query<{ folder: string }>(
    'select coalesce(recipe.folder, master.folder) as folder from recipe join master on master.id = recipe.master where recipe.id = $1',
    [recipe],
  );
  if (!rows[0]) throw new Failure('not-found', 'There is no such recipe any more.');
  return rows[0].folder;
}

/** A copy's files as they stand on the shelf. */
interface Found {
  /** Null where the first is missing. */
  readonly files: readonly CopyFile[] | null;
  readonly intact: boolean;
  /** Of the file, or of the list of them where there are several. */
  readonly sha256: string | null;
  readonly stamp: string;
  /** What stands there instead of a file. */
  readonly other: string | null;
}

/** What stands there can't be read as a copy at all. */
const notAFile = (words: string): CheckResult => ({
  verdict: 'unreadable',
  off: null,
  remark: '',
  intact: false,
  unchanged: null,
  matches: null,
  proof: `It can’t be read: ${words}.`.replace(/\.\.$/, '.'),
  differences: [],
  outlines: 0,
  equal: 0,
  sides: null,
});

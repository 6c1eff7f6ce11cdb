import {
  Failure,
  type History,
  type Master,
  type NotUnderstood,
  allItems,
  countWithin,
  applyPatches,
  asFailure,
  changesBetween,
  bringInAny,
  type PartWishes,
  fileName,
  looksNative,
  nativeInside,
  newId,
  nodeHash,
  nodeInWords,
  findNode,
  readPackage,
  resourceOfPicture,
  sizeOfPicture,
  type Resource,
  type NativePackage,
  NATIVE_MEDIA_TYPE,
  NATIVE_VERSION,
  digest,
  holdsProject,
  openPackedProject,
} from '@inkwell-twin/core';
import { storeBlob } from '../blobs/blobs';
import type { Engine } from '../compute/engine';
import { namingOfHouse } from '../house/house';
import { lockInTransaction, type Queryable } from '../database/database';
import { notUnderstoodIn } from './picture-notes';

/** What became of a file that was brought in. */
export interface BroughtIn {
  readonly id: string;
  readonly title: string;
  readonly objects: number;
  readonly notUnderstood: NotUnderstood[];
  /** Parts that came in as pictures of themselves. */
  readonly asPictures: number;
  /** Texts in fonts that the file carries, which came in as outlines. */
  readonly asOutlines: number;
}

/** A picture that a master keeps, and the size that it asks for, mm. */
export interface KeptPicture {
  readonly resource: Resource;
  readonly width: number;
  readonly height: number;
  readonly notUnderstood: NotUnderstood[];
}

interface Original {
  readonly bytes: Uint8Array;
  readonly name: string;
  readonly mediaType: string;
}

const countObjects = (master: Master): number =>
  master.boards.reduce((sum, board) => sum + [...allItems(board.items)].length, 0) + countWithin(master);

/** A folder of its own on the shelf, named after the title; nobody else takes it before this transaction ends. */
async function freeFolder(engine: Engine, client: Queryable, title: string): Promise<string> {
  await lockInTransaction(client, 'folders');
  const { rows } = await client.query<{ folder: string }>(
    'select folder from master union select folder from recipe where folder is not null union select target from shelf_move',
  );
  const { rule } = await namingOfHouse(client);
  return engine.shelf.freeFolder(
    fileName('{title}', { title }, 'x', rule).slice(0, -2),
    rows.map((row) => row.folder),
  );
}

export async function keepOriginal(client: Queryable, master: string, { bytes, name, mediaType }: Original): Promise<void> {
  const sha = await storeBlob(client, bytes);
  await client.query('insert into original (master, sha256, name, media_type) values ($1, $2, $3, $4) on conflict do nothing', [
    master,
    sha,
    name,
    mediaType,
  ]);
}

/** Asks for what follows from a new master, in the transaction that brings it. */
async function announce({ jobs }: Engine, client: Queryable, master: string): Promise<void> {
  await jobs.writeFile(master, client);
  await jobs.picture(master, client);
}

/** Adds a master with its first revision, in a transaction, and asks for what follows from it. */
export async function addMaster(engine: Engine, client: Queryable, first: Master, message: string): Promise<void> {
  const folder = await freeFolder(engine, client, first.title);
  const revisions = [{ rev: 1, time: new Date().toISOString(), author: first.owner, message, patches: [] }];
  await engine.masters.add(client, folder, { first, revisions }, first);
  await announce(engine, client, first.id);
}

/** Adds a master with its first revision. @param kept the files that it keeps; its resources are those */
export async function keepMaster(engine: Engine, first: Master, message: string, kept: readonly Original[] = []): Promise<void> {
  await engine.database.transaction(async (client) => {
    await addMaster(engine, client, first, message);
    for (const original of kept) await keepOriginal(client, first.id, original);
  });
  await engine.jobs.event({ kind: 'master', master: first.id });
}

/**
 * Adds a master that goes on from the history of another, with the files that the other keeps.
 * @param last who made the new one, and words about it: its last revision, which leads to `document`
 */
export async function keepHistory(
  engine: Engine,
  { first, revisions }: History,
  document: Master,
  last: { readonly author: string; readonly message: string },
  from: string,
): Promise<void> {
  await engine.database.transaction(async (client) => {
    const folder = await freeFolder(engine, client, document.title);
    const before = revisions.length
      ? applyPatches(
          first,
          revisions.flatMap(({ patches }) => patches),
        ).master
      : document;
    const patches = changesBetween(before, document);
    const record = { ...last, rev: revisions.length + 1, time: new Date().toISOString(), patches };
    await engine.masters.add(client, folder, { first, revisions: [...revisions, record] }, document);
    await client.query(
      'insert into original (master, sha256, name, media_type) select $2, sha256, name, media_type from original where master = $1',
      [from, document.id],
    );
    await announce(engine, client, document.id);
  });
  await engine.jobs.event({ kind: 'master', master: document.id });
}

/** A supplied file as a new master. @param owner who has it, where the file does not say. @param wishes of parts that a master can't hold. @throws Failure that says what it is not, or where reading stopped */
export async function bringInFile(
  engine: Engine,
  bytes: Uint8Array,
  name: string,
  owner: string,
  wishes?: PartWishes,
): Promise<BroughtIn> {
  if (looksNative(bytes)) return bringInPackage(engine, readPackage(bytes), { bytes, name, mediaType: NATIVE_MEDIA_TYPE });
  if (holdsProject(bytes)) return bringInPackage(engine, openPackedProject(bytes), { bytes, name, mediaType: 'application/zip' });
  const inside = await nativeInside(bytes);
  if (inside) return bringInPackage(engine, readPackage(inside), { bytes: inside, name, mediaType: NATIVE_MEDIA_TYPE });
  const { master, notUnderstood, kept, asPictures = 0, asOutlines = 0 } = await bringInAny(bytes, name, engine.services, wishes);
  const own = { ...master, id: newId(), owner: master.owner || owner };
  const files = kept.map(({ resource, bytes: held }) => ({ ...resource, bytes: held }));
  await keepMaster(engine, own, `Brought in from ${name}`, files);
  const { id, title } = own;
  return { id, title, objects: countObjects(own), notUnderstood: [...notUnderstood], asPictures, asOutlines };
}

/** A picture for an open master: its bytes are kept with the master, and what is known of it is answered. */
export async function keepPicture(engine: Engine, master: string, bytes: Uint8Array, name: string): Promise<KeptPicture> {
  const { database, services } = engine;
  const facts = await services.pictures!.facts(bytes);
  // What is damaged further on is found now, not when a copy is made.
  await services.pictures!.thumbnail(bytes, 64);
  const resource = resourceOfPicture(bytes, name, facts);
  await database.transaction(async (client) => {
    const { rowCount } = await client.query('select from master where id = $1 for share', [master]);
    if (!rowCount) throw new Failure('not-found', 'There is no such master on this Desk.');
    await keepOriginal(client, master, { ...resource, bytes });
  });
  return { resource, ...sizeOfPicture(facts), notUnderstood: [...(await notUnderstoodIn(bytes, name, facts, services))] };
}

/** A native file comes in with its history and its originals, as the same master. */
async function bringInPackage(engine: Engine, found: NativePackage, file: Original): Promise<BroughtIn> {
  const { database, masters } = engine;
  const { rev, time, history, resources, native = NATIVE_VERSION } = found;
  // The file of an older version is kept as it came: it is what the master was.
  const isOlder = native < NATIVE_VERSION;
  const original = {
    id: digest(file.bytes),
    name: file.name,
    mediaType: file.mediaType,
    size: file.bytes.length,
    role: 'original' as const,
  };
  const master = isOlder ? { ...found.master, resources: [...found.master.resources, original] } : found.master;
  const whole: History = history ?? {
    first: master,
    revisions: [
      {
        rev: 1,
        time,
        author: master.owner,
        message: isOlder ? `Brought in from native version ${native}, r${rev} there` : `Brought in at r${rev}`,
        patches: [],
      },
    ],
  };
  if (history) assertHistory(history, master, rev);
  await database.transaction(async (client) => {
    const { rows } = await client.query<{ title: string; head: number }>('select title, head from master where id = $1', [
      master.id,
    ]);
    if (rows[0])
      throw new Failure(
        'name-taken',
        `This master is on the Desk already, as “${rows[0].title}” at r${rows[0].head}; the file holds r${rev}. Nothing was changed.`,
      );
    const folder = await freeFolder(engine, client, master.title);
    await masters.add(client, folder, whole, master);
    if (isOlder) await keepOriginal(client, master.id, file);
    for (const { id, name, link } of found.master.resources)
      if (!resources.has(id) && link === undefined)
        throw new Failure('package-damaged', `The package lacks the original ${name}.`, { node: id });
    const known = new Map(master.resources.map((resource) => [resource.id, resource]));
    // What only an earlier revision shows is kept as well.
    for (const [id, original] of resources) {
      const { name = 'kept file', mediaType = 'application/octet-stream' } = known.get(id) ?? {};
      await keepOriginal(client, master.id, { bytes: original, name, mediaType });
    }
    await announce(engine, client, master.id);
  });
  await engine.jobs.event({ kind: 'master', master: master.id });
  return { id: master.id, title: master.title, objects: countObjects(master), notUnderstood: [], asPictures: 0, asOutlines: 0 };
}

/**
 * Replays a history and compares what it leads to with the document that the file says it is.
 * @throws Failure `package-damaged` that names the revision or the object where they part
 */
function assertHistory({ first, revisions }: History, master: Master, head: number): void {
  const where = { node: 'history/history.json' };
  if (first.id !== master.id)
    throw new Failure('package-damaged', `The history is of another master (${first.id}). Nothing was kept.`, where);
  let now = first;
  for (const [i, { rev, time, patches }] of revisions.entries()) {
    if (rev !== i + 1 || (i === 0 && patches.length) || Number.isNaN(Date.parse(time)))
      throw new Failure('package-damaged', `The history has no proper r${i + 1}. Nothing was kept.`, where);
    try {
      now = applyPatches(now, patches).master;
    } catch (error) {
      throw new Failure(
        'package-damaged',
        `The history is damaged at r${rev}: ${asFailure(error).message} Nothing was kept.`,
        where,
      );
    }
  }
  if (revisions.length !== head)
    throw new Failure(
      'package-damaged',
      `The history ends at r${revisions.length}, the document is r${head}. Nothing was kept.`,
      where,
    );
  if (nodeHash(now) === nodeHash(master)) return;
  const [patch] = changesBetween(now, master);
  const id = patch ? (patch.op === 'insert' ? (patch.node as { id: string }).id : patch.node) : master.id;
  const node = findNode(master, id) ?? findNode(now, id);
  throw new Failure(
    'package-damaged',
    `The history does not lead to the document: they part at “${node ? nodeInWords(node) : id}”. Nothing was kept. ` +
      `Ask its sender for the file again, or take the history out of it.`,
    { node: id },
  );
}

import { gzipSync } from 'node:zlib';
import {
  type Beginning,
  type Description,
  type Master,
  type Patch,
  changesInWords,
  derive,
  describe as descriptionPatches,
  findNode,
  newId,
  newMaster,
  recipeOf,
} from '@inkwell-twin/core';
import { boardFor } from './board-for';
import { linksStand } from './links';
import { sidecarStand } from './sidecars';
import { keepHistory, keepMaster } from '../../masters/keep';
import { lookOutside, outsideOf, settleOutside } from '../../masters/outside';
import { assertLife, revisionOf } from '../../masters/store';
import { UNNAMED, beginFrom, makeTemplate } from '../../masters/templates';
import { reviseMaster } from '../../masters/updates';
import type { Engine } from '../engine';

/** The document at a revision of one life of a master, as compressed JSON text. */
export async function revision(
  { masters }: Engine,
  { master, life, rev }: { master: string; life: string; rev: number },
): Promise<Uint8Array> {
  const loaded = await masters.load(master);
  assertLife(loaded.life, life);
  const { master: document } = revisionOf(loaded, rev);
  return gzipSync(JSON.stringify({ document }), { level: 1 });
}

export async function newOne(
  engine: Engine,
  {
    title,
    owner,
    purpose,
    template,
    ...wish
  }: { title: string; owner: string; purpose: string; template?: string | undefined } & Beginning,
): Promise<string> {
  if (template) return beginFrom(engine, template, title, owner);
  const master = newMaster(newId(), title || UNNAMED, owner, purpose, wish);
  await keepMaster(engine, master, 'Started');
  return master.id;
}

/** A history told of another master: its id in the place of the old one, wherever a patch names it. */
function asOf(patch: Patch, from: string, to: string): Patch {
  if (patch.op === 'set') return patch.node === from ? { ...patch, node: to } : patch;
  return patch.parent === from ? { ...patch, parent: to } : patch;
}

/** Starts another master from one. @throws Failure `not-found` for a revision that is not there */
export async function another(
  engine: Engine,
  { master, title, owner, history, rev }: { master: string; title: string; owner: string; history: boolean; rev: number | null },
): Promise<string> {
  const loaded = await engine.masters.load(master);
  const from = revisionOf(loaded, rev ?? loaded.head.rev);
  const id = newId();
  const message = `Started from “${from.master.title}” at r${from.rev}`;
  const document: Master = { ...from.master, id, title, owner };
  if (!history) await keepHistory(engine, { first: document, revisions: [] }, document, { author: owner, message }, master);
  else {
    const { first, revisions } = loaded.history;
    const told = revisions
      .slice(0, from.rev)
      .map((one) => ({ ...one, patches: one.patches.map((patch) => asOf(patch, master, id)) }));
    await keepHistory(engine, { first: { ...first, id }, revisions: told }, document, { author: owner, message }, master);
  }
  return id;
}

/** The revisions in which a node changed, newest first, each with what changed in words. */
export async function nodeHistory(
  { masters }: Engine,
  { master, node }: { master: string; node: string },
): Promise<{ rev: number; time: string; author: string; message: string; name: string; how: string }[]> {
  const { revisions, history } = await masters.load(master);
  const found = [];
  for (const [i, { rev, time, author, message, master: after }] of revisions.entries()) {
    const before = revisions[i - 1]?.master;
    const { patches, name = '' } = history.revisions[i]!;
    const there = before && findNode(before, node);
    if (before ? !touches(patches, node, there !== undefined, findNode(after, node) !== undefined) : !findNode(after, node))
      continue;
    const how = before ? changesInWords(before, after).find((one) => one.node === node)?.how : undefined;
    found.push({
      rev,
      time,
      author,
      message,
      name,
      how: how ?? (there ? 'changed with what it is in' : 'there from the beginning'),
    });
  }
  return found.reverse();
}
const touches = (patches: readonly Patch[], node: string, before: boolean, after: boolean): boolean =>
  before !== after || patches.some((patch) => (patch.op === 'insert' ? (patch.node as { id?: string }).id : patch.node) === node);

/** Pixels of the longer side of a master's picture. */
const PICTURE = 480;

/** Draws the first board of a master small, or what stands for one that has none, and keeps the picture. */
export async function picture({ masters, database, services }: Engine, { master: id }: { master: string }): Promise<void> {
  const { life, head } = await masters.load(id);
  const drawn = await boardFor(head.master, services);
  const { width, height } = drawn.boards[0]!;
  const size = Math.max(1, Math.round(PICTURE * Math.min(1, width / height)));
  // Pixels are what is wanted, so the target is one of them.
  // eslint-disable-next-line no-restricted-syntax -- the picture of a master is a file of one kind
  const recipe = recipeOf('png', { width: size }, '', 'picture');
  const { files } = await derive({ master: drawn, rev: head.rev, time: head.time }, recipe, services);
  await database.query(
    `insert into picture (master, rev, png) select id, $2, $3 from master where id = $1 and life = $4
     on conflict (master) do update set rev = $2, png = $3 where picture.rev <= $2`,
    [id, head.rev, Buffer.from(files[0]!.bytes), life],
  );
}

/** Looks at a master's file after something happened to it on the shelf. */
export async function outsideLook(engine: Engine, { master }: { master: string }): Promise<void> {
  const found = await lookOutside(engine, master);
  if (found === 'write') await engine.jobs.writeFile(master);
  if (found !== 'told') return;
  const [row] = await engine.database.rows<{ trouble: string | null }>('select trouble from outside where master = $1', [master]);
  const words =
    row && `Its file on the shelf was changed by another program. ${row.trouble ?? 'Open it to bring both together.'}`;
  await engine.jobs.notice(master, 'outside', words ?? null);
  await engine.jobs.event({ kind: 'master', master });
}

export const outside = async (engine: Engine, { master }: { master: string }): Promise<Uint8Array> =>
  gzipSync(JSON.stringify(await outsideOf(engine, master)), { level: 1 });

export async function outsideSettle(
  engine: Engine,
  { master, sha256, way }: { master: string; sha256: string; way: 'taken' | 'set aside' },
): Promise<void> {
  await settleOutside(engine, master, sha256, way);
  await engine.jobs.notice(master, 'outside', null);
  await engine.jobs.event({ kind: 'master', master });
}

/** Writes a master's native file. @returns words about a file of someone's that was set aside, or null */
export async function file(engine: Engine, { master }: { master: string }): Promise<string | null> {
  const words = await engine.files.write(master);
  await linksStand(engine, { master });
  await sidecarStand(engine, { master });
  return words;
}

export const template = (engine: Engine, { master, name, by }: { master: string; name: string; by: string }): Promise<string> =>
  makeTemplate(engine, master, name, by);

/** Says something of a master, as its next revision. @returns whether that changed it */
export async function describe(
  engine: Engine,
  { master, author, said }: { master: string; author: string; said: Description },
): Promise<boolean> {
  const words = [
    ...(said.add?.length ? [`keywords ${said.add.join(', ')}`] : []),
    ...(said.remove?.length ? [`without ${said.remove.join(', ')}`] : []),
    ...(said.caption === undefined ? [] : ['caption']),
    ...(said.rights === undefined ? [] : ['rights']),
    ...(said.owner === undefined ? [] : ['owner']),
  ].join('; ');
  return (await reviseMaster(engine, master, author, `Described: ${words}`, (now) => descriptionPatches(now, said))) !== null;
}

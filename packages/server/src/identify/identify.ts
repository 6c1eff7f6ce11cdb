import { type Identified, type JobHead, VerdictName } from '@inkwell-twin/api';
import {
  asFailure,
  type Codec,
  type CopyFile,
  Failure,
  type Mark,
  type ReadCopy,
  checkCopy,
  codecOf,
  footprintHash,
  jobOfFile,
  kindById,
  looksNative,
  markOutside,
  opened,
  nativeInside,
  parseMark,
  readPackage,
  recipeOfHow,
  recognise,
} from '@inkwell-twin/core';
import { sha256 } from '../blobs/blobs';
import type { Engine } from '../compute/engine';
import { type Match, matchOf, packOne } from '../copies/match-wire';
import { type CopyRow, recipeOfRow } from '../copies/rows';
import type { LoadedMaster } from '../masters/store';
import { passwordsOf } from '../copies/recipes';
import { mostLike } from './most-like';

const OTHER: Identified = { kind: 'other', words: '', master: null, copy: null, verdict: null };

/**
 * Says what a file is, without keeping anything of it: a master of this Desk, the original of one, or a copy by its mark of
 * origin, and then whether it still says what its master says. Everything else is `other`.
 */
export async function identify(engine: Engine, bytes: Uint8Array, name: string): Promise<Identified> {
  const { database } = engine;
  if (looksNative(bytes)) return identifyMaster(engine, bytes, `“${name}” is`);
  const [original] = await database.rows<{ master: string; title: string }>(
    'select original.master, master.title from original join master on master.id = original.master where original.sha256 = $1',
    [sha256(bytes)],
  );
  if (original)
    return {
      ...OTHER,
      kind: 'original',
      words: `“${name}” is the file that ${original.title} was brought in from; it is kept there byte for byte.`,
      master: { id: original.master, title: original.title },
    };
  const shut = await shutCopy(engine, bytes, name);
  if (shut) return shut;
  const read = await readAs(engine, bytes);
  const mark = parseMark(read?.mark ?? null);
  // One of another Desk that has its master inside opens as that.
  const isKnown = mark !== null && (await database.rows('select id from master where id = $1', [mark.master])).length > 0;
  const inside = isKnown ? null : await nativeInside(bytes);
  if (inside) return identifyMaster(engine, inside, `“${name}” has inside`);
  if (mark && isKnown) return identifyCopy(engine, await engine.masters.load(mark.master), mark, bytes, name);
  const ours = mark ? null : await byChecksum(engine, bytes, name);
  if (ours) return ours;
  const says = mark ? 'carries the mark of a master that is not on this Desk' : 'carries no mark of origin';
  const like = await byLikeness(engine, read, `“${name}” ${says}`);
  return like.kind === 'other' ? ((await identifyJob(engine, bytes, name)) ?? like) : like;
}

/** What a machine is told by somebody else; null for everything else. */
async function identifyJob({ services }: Engine, bytes: Uint8Array, name: string): Promise<Identified | null> {
  const job = await jobOfFile(bytes, services);
  if (!job) return null;
  const drawn = job.comesIn ? ' What it draws can become a master; what was meant by it is not in the file.' : '';
  return {
    ...OTHER,
    kind: 'job',
    words: `“${name}” tells a machine what to do (${job.language}), and is of nobody here: it is for looking only.${drawn}`,
  };
}

/**
 * What a machine does with a file, packed for showing.
 * @param machine the machine that holds it, as an option names it; empty where only the file can say
 * @throws Failure `not-known` for what is for no machine
 */
export async function jobForShowing({ services }: Engine, bytes: Uint8Array, name: string, machine: string): Promise<Uint8Array> {
  const job = await jobOfFile(bytes, services);
  if (!job) throw new Failure('not-known', `“${name}” is for no machine that is known here.`, { file: name });
  const { label, language, kind, body, mark, notUnderstood, comesIn } = job;
  const said = parseMark(mark);
  const own = said ? String(recipeOfHow(said.how, said.recipe).options['machine'] ?? '') : '';
  const head = { label, language, machine: machine || own, notUnderstood: [...notUnderstood], comesIn };
  return packOne<JobHead>(head, kind, kindById(kind).pack(body));
}

/** A native package: a master of this Desk, or one to bring in. */
async function identifyMaster({ database, masters }: Engine, bytes: Uint8Array, says: string): Promise<Identified> {
  const { master, rev } = readPackage(bytes);
  const known = await database.rows('select id from master where id = $1', [master.id]);
  if (!known.length) return OTHER;
  const { title, head } = await masters.load(master.id);
  const age = rev === head.rev ? `at r${rev}, as it is now` : `at r${rev}; it is at r${head.rev} now`;
  return { ...OTHER, kind: 'master', words: `${says} the master ${title} ${age}.`, master: { id: master.id, title } };
}

/** What a file says, as the target that it is recognised as; null for one that is none. */
async function readAs(engine: Engine, bytes: Uint8Array): Promise<(ReadCopy & { readonly target: string }) | null> {
  const target = recognise(bytes);
  if (!target) return null;
  const codec = await codecOf(target.id);
  const { files } = await openedHere(engine, codec, bytes);
  return { ...(await codec.read(files, {}, engine.services)), target: target.id };
}

/**
 * A file that may be locked, opened with what its copies were locked with here.
 * @throws Failure `password-missing` where none of them opens it
 */
async function openedHere(
  { database }: Engine,
  codec: Codec,
  bytes: Uint8Array,
): Promise<{ readonly files: readonly CopyFile[]; readonly password: string | undefined }> {
  const file = [{ part: '', bytes }];
  const mark = parseMark(markOutside(codec, bytes));
  for (const password of mark ? await passwordsOf(database, mark.recipe) : [])
    try {
      return { files: await opened(codec, file, password), password };
    } catch (error) {
      if (asFailure(error).code !== 'password-wrong') throw error;
    }
  return { files: await opened(codec, file, undefined), password: undefined };
}

/** A copy of a master of this Desk that nobody here can open; null for everything else. */
async function shutCopy(engine: Engine, bytes: Uint8Array, name: string): Promise<Identified | null> {
  const target = recognise(bytes);
  const codec = target && (await codecOf(target.id));
  const mark = codec && parseMark(markOutside(codec, bytes));
  if (!mark) return null;
  const [master] = await engine.database.rows<{ id: string; title: string }>('select id, title from master where id = $1', [
    mark.master,
  ]);
  if (!master) return null;
  try {
    await openedHere(engine, codec, bytes);
    return null;
  } catch (error) {
    if (asFailure(error).code !== 'password-missing') throw error;
    const words = `“${name}” is a copy of ${master.title}, made at r${mark.rev}, and locked with a password that nobody here knows: what it says can’t be told.`;
    return { ...OTHER, kind: 'copy', words, master };
  }
}

/** What opens a file here, where it is locked. */
const passwordFor = async (engine: Engine, target: string, bytes: Uint8Array): Promise<string | undefined> =>
  (await openedHere(engine, await codecOf(target), bytes)).password;

/**
 * A full comparison of a file that is a copy of ours with its master as it is now, by its mark of origin or by its bytes.
 * @param leaf the part of it of which both sides are shown
 * @param copy the copy that it is taken for, where it says nothing of it itself; empty elsewhere
 * @throws Failure `not-found` for a file that is none, or of a revision that this Desk does not know
 */
export async function matchFile(engine: Engine, bytes: Uint8Array, name: string, leaf: number, copy: string): Promise<Match> {
  const { database, masters, services } = engine;
  const mark = copy ? null : parseMark((await readAs(engine, bytes))?.mark ?? null);
  const file = sha256(bytes);
  const [row] = await database.rows<CopyRow>(
    `select recipe.id as recipe, recipe.master, target, options, scope, choices, row, copy.rev, says, copy.sha256
       from copy join recipe on recipe.id = copy.recipe where ${copy ? 'copy.id' : 'copy.sha256'} = $1 order by written_at desc limit 1`,
    [copy || file],
  );
  const id = mark?.master ?? row?.master;
  const known = id ? await database.rows('select id from master where id = $1', [id]) : [];
  if (!id || !known.length) throw new Failure('not-found', `“${name}” is no copy of a master of this Desk.`);
  const master = await masters.load(id);
  const then = master.revisions[(mark?.rev ?? row!.rev) - 1];
  if (!then) throw new Failure('not-found', `This Desk knows the master only up to r${master.head.rev}.`);
  const recipe = mark ? recipeOfHow(mark.how, mark.recipe) : recipeOfRow(row!);
  const result = await checkCopy(
    {
      files: [{ part: '', bytes }],
      intact: row?.sha256 === file,
      says: mark?.says ?? row!.says,
      current: master.head.master,
      baseline: then.master,
      recipe,
      password: await passwordFor(engine, recipe.target, bytes),
      unchanged: footprintHash(then.master, recipe) === footprintHash(master.head.master, recipe),
    },
    services,
    true,
  );
  return matchOf(result, recipe.target, leaf, null);
}

/** A file without a mark of origin: still ours where it is, byte for byte, one that was written. */
async function byChecksum({ database }: Engine, bytes: Uint8Array, name: string): Promise<Identified | null> {
  const [row] = await database.rows<{
    id: string;
    rev: number;
    label: string;
    live: boolean;
    master: string;
    title: string;
    verdict: string | null;
  }>(
    `select copy.id, copy.rev, recipe.label, copy.state = 'live' as live, recipe.master, master.title, copy_now.verdict
       from copy join recipe on recipe.id = copy.recipe join master on master.id = recipe.master left join copy_now on copy_now.id = copy.id
      where copy.sha256 = $1 order by copy.written_at desc limit 1`,
    [sha256(bytes)],
  );
  if (!row) return null;
  const now = row.live ? '' : ' It was derived again since.';
  return {
    ...OTHER,
    kind: 'copy',
    words: `“${name}” is “${row.label}”, a copy of ${row.title}, made at r${row.rev}: byte for byte as it was written.${now}`,
    master: { id: row.master, title: row.title },
    copy: row.live ? row.id : null,
    verdict: row.live ? VerdictName.parse(row.verdict) : null,
  };
}

/** A file that says nothing of where it is from, and is much like a copy that was written: the person decides what it is. */
async function byLikeness(engine: Engine, read: Awaited<ReturnType<typeof readAs>>, says: string): Promise<Identified> {
  const like = read && (await mostLike(engine, read.target, read));
  if (!like) return OTHER;
  const percent = Math.round(100 * like.share);
  const share = like.same
    ? 'It says just the same'
    : percent === 100
      ? 'It is made of the same things, put otherwise'
      : `${percent} % of what it is made of is the same`;
  return {
    ...OTHER,
    kind: 'alike',
    words: `${says}. It looks like “${like.label}”, a copy of ${like.title}, as it was at r${like.rev}. ${share}.`,
    master: { id: like.master, title: like.title },
    copy: like.copy,
  };
}

async function identifyCopy(
  engine: Engine,
  master: LoadedMaster,
  mark: Mark,
  bytes: Uint8Array,
  name: string,
): Promise<Identified> {
  const { database, services } = engine;
  const written = await database.rows<{ label: string; id: string; live: boolean; sha256: string }>(
    `select copy.id, recipe.label, copy.sha256, copy.state = 'live' as live from copy join recipe on recipe.id = copy.recipe
      where recipe.id = $1 and recipe.master = $2 order by copy.written_at desc`,
    [mark.recipe, master.id],
  );
  const label = written[0]?.label;
  const then = master.revisions[mark.rev - 1];
  const start = `“${name}” is ${label ? `“${label}”, ` : ''}a copy of ${master.title}, made at r${mark.rev}.`;
  const common = {
    ...OTHER,
    kind: 'copy' as const,
    master: { id: master.id, title: master.title },
    copy: written.find(({ live }) => live)?.id ?? null,
  };
  if (!then) return { ...common, words: `${start} This Desk knows the master only up to r${master.head.rev}.` };
  const file = sha256(bytes);
  const recipe = recipeOfHow(mark.how, mark.recipe);
  const { verdict, remark, proof } = await checkCopy(
    {
      files: [{ part: '', bytes }],
      intact: written.some((one) => one.sha256 === file),
      says: mark.says,
      current: master.head.master,
      baseline: then.master,
      recipe,
      password: await passwordFor(engine, recipe.target, bytes),
      unchanged: footprintHash(then.master, recipe) === footprintHash(master.head.master, recipe),
    },
    services,
  );
  const word = verdict.charAt(0).toUpperCase() + verdict.slice(1);
  return { ...common, verdict, words: `${start} ${word}${remark ? `, ${remark}` : ''}: ${proof}` };
}

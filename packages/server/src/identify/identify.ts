import { type Identified, VerdictName } from '@inkwell-twin/api';
import {
  Failure,
  type Mark,
  type ReadCopy,
  checkCopy,
  codecOf,
  footprintHash,
  looksNative,
  parseMark,
  readPackage,
  recipeOfHow,
  recognise,
} from '@inkwell-twin/core';
import { sha256 } from '../blobs/blobs';
import type { Engine } from '../compute/engine';
import { type Match, matchOf } from '../copies/match-wire';
import { type CopyRow, recipeOfRow } from '../copies/rows';
import type { LoadedMaster } from '../masters/store';
import { mostLike } from './most-like';

const OTHER: Identified = { kind: 'other', words: '', master: null, copy: null, verdict: null };

/**
 * Says what a file is, without keeping anything of it: a master of this Desk, the original of one, or a copy by its mark of
 * origin, and then whether it still says what its master says. Everything else is `other`.
 */
export async function identify(engine: Engine, bytes: Uint8Array, name: string): Promise<Identified> {
  const { database, masters } = engine;
  if (looksNative(bytes)) {
    const { master, rev } = readPackage(bytes);
    const known = await database.rows('select id from master where id = $1', [master.id]);
    if (!known.length) return OTHER;
    const { title, head } = await masters.load(master.id);
    const age = rev === head.rev ? `at r${rev}, as it is now` : `at r${rev}; it is at r${head.rev} now`;
    return { ...OTHER, kind: 'master', words: `“${name}” is the master ${title} ${age}.`, master: { id: master.id, title } };
  }
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
  const read = await readAs(engine, bytes);
  const mark = parseMark(read?.mark ?? null);
  if (!mark) return (await byChecksum(engine, bytes, name)) ?? byLikeness(engine, read, `“${name}” carries no mark of origin`);
  const known = await database.rows('select id from master where id = $1', [mark.master]);
  return known.length
    ? identifyCopy(engine, await masters.load(mark.master), mark, bytes, name)
    : byLikeness(engine, read, `“${name}” carries the mark of a master that is not on this Desk`);
}

/** What a file says, as the target that it is recognised as; null for one that is none. */
async function readAs({ services }: Engine, bytes: Uint8Array): Promise<(ReadCopy & { readonly target: string }) | null> {
  const target = recognise(bytes);
  return target ? { ...(await (await codecOf(target.id)).read([{ part: '', bytes }], {}, services)), target: target.id } : null;
}

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
  { database, services }: Engine,
  master: LoadedMaster,
  mark: Mark,
  bytes: Uint8Array,
  name: string,
): Promise<Identified> {
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
      unchanged: footprintHash(then.master, recipe) === footprintHash(master.head.master, recipe),
    },
    services,
  );
  const word = verdict.charAt(0).toUpperCase() + verdict.slice(1);
  return { ...common, verdict, words: `${start} ${word}${remark ? `, ${remark}` : ''}: ${proof}` };
}

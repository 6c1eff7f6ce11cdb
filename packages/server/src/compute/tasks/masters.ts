import { gzipSync } from 'node:zlib';
import { derive, newId, newMaster, recipeOf } from '@inkwell-twin/core';
import { boardFor } from './glance';
import { keepMaster } from '../../masters/keep';
import { revisionOf } from '../../masters/store';
import type { Engine } from '../engine';

/** The document at a revision, as compressed JSON text. */
export async function revision({ masters }: Engine, { master, rev }: { master: string; rev: number }): Promise<Uint8Array> {
  const { master: document } = revisionOf(await masters.load(master), rev);
  return gzipSync(JSON.stringify({ document }), { level: 1 });
}

export async function newOne(
  engine: Engine,
  { title, owner, purpose }: { title: string; owner: string; purpose: string },
): Promise<string> {
  const master = newMaster(newId(), title, owner, purpose);
  await keepMaster(engine, master, 'Started');
  return master.id;
}

/** Pixels of the longer side of a master's picture. */
const PICTURE = 480;

/** Draws the first board of a master small, or what stands for one that has none, and keeps the picture. */
export async function picture({ masters, database, means }: Engine, { master: id }: { master: string }): Promise<void> {
  const { head } = await masters.load(id);
  const drawn = await boardFor(head.master, means);
  const { width, height } = drawn.boards[0]!;
  const size = Math.max(1, Math.round(PICTURE * Math.min(1, width / height)));
  // Pixels are what is wanted, so the target is one of them.
  const recipe = recipeOf('png', { width: size }, '', 'picture');
  const { files } = await derive({ master: drawn, rev: head.rev, time: head.time }, recipe, means);
  await database.query(
    `insert into picture (master, rev, png) values ($1, $2, $3)
     on conflict (master) do update set rev = $2, png = $3 where picture.rev <= $2`,
    [id, head.rev, Buffer.from(files[0]!.bytes)],
  );
}

/** Writes a master's native file. @returns words about a file of someone's that was set aside, or null */
export const file = ({ files }: Engine, { master }: { master: string }): Promise<string | null> => files.write(master);

import {
  type DemoCopy,
  type DemoMaster,
  type DemoPart,
  afterMishap,
  demoMasters,
  otterPlaque,
  recipeOfDemo,
} from '@inkwell-twin/demo';
import { writeFileSync, rmSync } from 'node:fs';
import { type Master, fileName, revisionsOf } from '@inkwell-twin/core';
import { sha256 } from '../blobs/blobs';
import type { Engine } from '../compute/engine';
import type { Database } from '../database/database';
import { keepOriginal } from '../masters/keep';
import { addRecipe } from '../copies/recipes';

/** What a part of the demo is called among the settings. */
const nameOfPart = (part: DemoPart): string => (part === 'drawings' ? 'demo' : `demo ${part}`);
/** A master of the demo that is there in full, copies and all. */
const MASTER = 'demo master ';

const keepSetting = (database: Database, name: string, value: string): Promise<unknown> =>
  database.query('insert into setting (name, value) values ($1, $2) on conflict (name) do update set value = $2', [name, value]);

/**
 * Which parts of the demo are not on the Desk in full, of those that belong there. A Desk that had masters before it was first asked
 * for keeps to those.
 */
export async function partsToLoad(database: Database, parts: readonly DemoPart[]): Promise<DemoPart[]> {
  await database.query(
    `insert into setting (name, value) select 'demo', 'not wanted' where exists (select from master) on conflict (name) do nothing`,
  );
  const settings = await database.rows<{ name: string; value: string }>(
    "select name, value from setting where name like 'demo%'",
  );
  const stateOf = (part: DemoPart) => settings.find(({ name }) => name === nameOfPart(part))?.value;
  return stateOf('drawings') === 'not wanted' ? [] : parts.filter((part) => stateOf(part) !== 'loaded');
}

/** How many masters of the demo are there in full. */
export async function demoLoaded(database: Database): Promise<number> {
  const [row] = await database.rows<{ count: number }>(
    'select count(*)::integer as count from setting where starts_with(name, $1)',
    [MASTER],
  );
  return row!.count;
}

/** Loads a part of the demo. Where that was cut short before, it goes on: what is there stays as it is. */
export async function loadDemoPart(engine: Engine, part: DemoPart): Promise<void> {
  const { database, jobs } = engine;
  const keep = (state: string) => keepSetting(database, nameOfPart(part), state);
  await keep('begun');
  for (const demo of await demoMasters(engine.services, [part])) {
    const { id } = demo.first;
    const [known] = await database.rows('select from setting where name = $1', [MASTER + id]);
    if (known) continue;
    await loadMaster(engine, demo);
    await keepSetting(database, MASTER + id, 'loaded');
    await jobs.event({ kind: 'master', master: id });
  }
  // One that nobody has opened yet since an older version, where its folder is.
  if (part === 'pictures') putOlderMaster(engine);
  await keep('loaded');
}

/** A master of the demo: its history, copies at their revisions, and what befell them. Each step finds out whether it was done. */
async function loadMaster(engine: Engine, demo: DemoMaster): Promise<void> {
  const { database, masters, shelf, jobs } = engine;
  const { id, title } = demo.first;
  const head = [...revisionsOf(demo)].at(-1)!.master;
  const [there] = await database.rows('select from master where id = $1', [id]);
  if (!there) {
    const folder = shelf.freeFolder(fileName('{title}', { title }, 'x').slice(0, -2), [], demo.place ?? '');
    await database.transaction(async (client) => {
      await masters.add(client, folder, demo, head);
      for (const { resource, bytes } of demo.kept ?? []) await keepOriginal(client, id, { ...resource, bytes });
    });
  }
  for (const { path, bytes } of demo.beside ?? []) {
    const cut = path.lastIndexOf('/');
    shelf.put(path.slice(0, cut), path.slice(cut + 1), bytes, (sha) => sha === sha256(bytes));
  }
  for (const copy of demo.copies) await loadCopy(engine, head, copy);
  await jobs.writeFile(id);
  await jobs.picture(id);
}

async function loadCopy({ database, copies, shelf, services }: Engine, head: Master, copy: DemoCopy): Promise<void> {
  const recipe = recipeOfDemo(head, copy);
  const [asked] = await database.rows('select from recipe where id = $1', [recipe.id]);
  if (!asked) await addRecipe(database, head.id, copy.label, recipe);
  const [made] = await database.rows<{ id: string }>("select id from copy where recipe = $1 and state = 'live'", [recipe.id]);
  const row = await copies.find(made?.id ?? (await copies.derive(head.id, recipe.id, copy.rev)));
  if (!copy.mishap) return;
  const standing = shelf.read(row.folder, row.file);
  if (standing && sha256(standing) === row.sha256) {
    const path = shelf.path(row.folder, row.file);
    const left = await afterMishap(standing, copy.mishap, services);
    if (left) writeFileSync(path, left);
    else rmSync(path);
  }
  await copies.check(row.id);
}

/** Puts the files of a master of native version 1 on the shelf, where no folder of that name stands yet. */
function putOlderMaster({ shelf }: Engine): void {
  const { folder, files } = otterPlaque();
  if (shelf.sizeAndTime(folder)) return;
  for (const [path, bytes] of files) {
    const cut = path.lastIndexOf('/');
    shelf.put(cut < 0 ? folder : `${folder}/${path.slice(0, cut)}`, path.slice(cut + 1), bytes, () => true);
  }
}

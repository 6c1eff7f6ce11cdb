import { type DemoMaster, afterMishap, otterPlaque, recipeOfDemo } from '@inkwell-twin/demo';
import { writeFileSync, rmSync } from 'node:fs';
import { fileName, revisionsOf } from '@inkwell-twin/core';
import type { Engine } from '../compute/engine';
import { keepOriginal } from '../masters/keep';
import { addRecipe } from '../copies/recipes';

/** Loads a master of the demo: its history, copies at their revisions, and what befell them. */
export async function loadDemoMaster(engine: Engine, demo: DemoMaster): Promise<void> {
  const { database, masters, copies, shelf, jobs } = engine;
  // What an earlier start, cut short, left of it.
  await database.query('delete from master where id = $1', [demo.first.id]);
  const folder = shelf.freeFolder(fileName('{title}', { title: demo.first.title }, 'x').slice(0, -2), [], demo.place ?? '');
  const head = [...revisionsOf(demo)].at(-1)!.master;
  await database.transaction(async (client) => {
    await masters.add(client, folder, demo, head);
    for (const { resource, bytes } of demo.kept ?? []) await keepOriginal(client, head.id, { ...resource, bytes });
  });
  for (const { path, bytes } of demo.beside ?? []) {
    const cut = path.lastIndexOf('/');
    shelf.put(path.slice(0, cut), path.slice(cut + 1), bytes, () => false);
  }
  const { id } = demo.first;
  for (const copy of demo.copies) {
    const recipe = recipeOfDemo(head, copy);
    await addRecipe(database, id, copy.label, recipe);
    const row = await copies.find(await copies.derive(id, recipe.id, copy.rev));
    if (!copy.mishap) continue;
    const path = shelf.path(folder, row.file);
    const left = await afterMishap(shelf.read(folder, row.file)!, copy.mishap, engine.services);
    if (left) writeFileSync(path, left);
    else rmSync(path);
    await copies.check(row.id);
  }
  await jobs.writeFile(id);
  await jobs.picture(id);
}

/** Puts the files of a master of native version 1 on the shelf, where no folder of that name stands yet. */
export function putOlderMaster({ shelf }: Engine): void {
  const { folder, files } = otterPlaque();
  if (shelf.sizeAndTime(folder)) return;
  for (const [path, bytes] of files) {
    const cut = path.lastIndexOf('/');
    shelf.put(cut < 0 ? folder : `${folder}/${path.slice(0, cut)}`, path.slice(cut + 1), bytes, () => true);
  }
}

import { demoMasters, afterMishap, recipeOfDemo } from '@inkwell-twin/demo';
import { fileName } from '@inkwell-twin/core';
import { writeFileSync, rmSync } from 'node:fs';
import type { Workshop } from '../workshop';

/** Loads the demo into an empty workshop: masters with their histories, copies at their revisions, and what befell them. */
export async function loadDemo(workshop: Workshop): Promise<void> {
  const { database, masters, copies, shelf } = workshop;
  if ((await masters.list()).length) return;
  for (const demo of demoMasters()) {
    const folder = shelf.freeFolder(fileName('{title}', { title: demo.first.title }, 'x').slice(0, -2), []);
    await database.transaction((client) => masters.add(client, folder, demo));
    const { id } = demo.first;
    const { head } = await masters.load(id);
    for (const copy of demo.copies) {
      const recipe = recipeOfDemo(head.master, copy);
      await copies.addRecipe(database.pool, id, copy.label, recipe);
      const row = await copies.find(await copies.derive(id, recipe.id, copy.rev));
      if (!copy.mishap) continue;
      const path = shelf.path(folder, row.file);
      const left = afterMishap(shelf.read(folder, row.file)!, copy.mishap);
      if (left) writeFileSync(path, left);
      else rmSync(path);
    }
    await workshop.files.write(id);
  }
}

import { gzipSync } from 'node:zlib';
import { digestOf, formatMark, howOf, ladderInWords, newId, project, recipeOf, type CarryReport } from '@inkwell-twin/core';
import type { Engine } from '../engine';

/** A recipe as it crosses to a worker. */
export interface RecipeData {
  readonly target: string;
  readonly options: Readonly<Record<string, string | number | boolean>>;
  readonly board: string;
}

interface Rung {
  readonly version: string;
  readonly report: CarryReport;
  readonly bytes: number;
}

/** What is lost in each version of a target, and how large the copy will be: it is written, mark and all, but to nowhere. */
export async function carry(
  { masters, fonts }: Engine,
  { master: id, target, options, board }: RecipeData & { master: string },
): Promise<{ words: string; rungs: Rung[] }> {
  const { rev, time, master } = (await masters.load(id)).head;
  const { versions } = recipeOf(target, options, board).target;
  const rungs = (versions.length ? versions : [null]).map((version): Rung => {
    const recipe = recipeOf(target, version === null ? options : { ...options, version }, board, newId());
    const { projection, report } = project(master, recipe, fonts);
    const mark = formatMark({
      master: master.id,
      rev,
      recipe: recipe.id,
      says: digestOf(projection),
      written: time,
      how: howOf(recipe),
    });
    return { version: version ?? '', report, bytes: recipe.target.write(projection, recipe.options, mark).length };
  });
  return { words: ladderInWords(rungs), rungs };
}

/** Derives a copy of a recipe and puts it on the shelf. */
export const derive = (
  { copies }: Engine,
  { master, recipe, rev }: { master: string; recipe: string; rev?: number },
): Promise<string> => copies.derive(master, recipe, rev);

export const check = ({ copies }: Engine, { copy }: { copy: string }): Promise<void> => copies.check(copy);

/** Finds how each copy stands. @returns those whose verdict is not known */
export const stand = ({ copies, database }: Engine, { master }: { master: string }): Promise<string[]> =>
  database.transaction((client) => copies.stand(client, master));

/** A full comparison with both sides, as compressed JSON text. */
export async function match({ copies }: Engine, { copy }: { copy: string }): Promise<Uint8Array> {
  return gzipSync(JSON.stringify(await copies.match(copy)), { level: 1 });
}

export const accept = ({ copies }: Engine, { copy, by, reason }: { copy: string; by: string; reason: string }): Promise<void> =>
  copies.accept(copy, by, reason);

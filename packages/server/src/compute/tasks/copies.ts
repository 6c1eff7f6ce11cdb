import { gzipSync } from 'node:zlib';
import type { SeenView } from '@inkwell-twin/api';
import {
  type CarryReport,
  type Choice,
  Failure,
  type Master,
  type Options,
  type Scope,
  type Services,
  countWithin,
  declarationOf,
  fitSize,
  fixedScope,
  type Finding,
  type JobSize,
  foresee as foreseeCopy,
  machineFit as fitMachine,
  forecastOf,
  ladderInWords,
  newId,
  project,
  fittedTo,
  recipeOf,
  tablesIn,
  type VariantName,
  type VariantRow,
  variantsOf,
} from '@inkwell-twin/core';
import { matchOfForeseen, packMatch } from '../../copies/match-wire';
import { optionalFeatures } from '../../copies/optional-features';
import { LARGE } from '../../jobs/queues';
import type { Engine } from '../engine';

/** A recipe as it crosses to a worker. */
export interface RecipeData {
  readonly target: string;
  readonly options: Readonly<Record<string, string | number | boolean>>;
  readonly scope: Scope;
  readonly choices: readonly Choice[];
}

interface Rung {
  readonly version: string;
  readonly report: CarryReport;
  /** Null where only the report was asked for. */
  readonly bytes: number | null;
}

/**
 * What a document has of what can be left out of a copy: what would be left out if it were asked for. Of a large document, everything
 * that the target can do without is offered: to ask for each by itself takes too long there.
 */
async function whatOccurs(master: Master, { target, options, scope }: RecipeData, services: Services): Promise<string[]> {
  const names = optionalFeatures(declarationOf(target)).map(({ name }) => name);
  const objects = countWithin(master) + master.boards.reduce((sum, { items }) => sum + items.length, 0);
  if (objects > LARGE) return names;
  const goes = async (some: readonly string[]): Promise<string[]> => {
    const choices = some.map((feature): Choice => ({ feature, take: 'left out' }));
    const { report } = await project(master, fittedTo(recipeOf(target, options, scope, newId(), choices), master), services);
    return report.lines.flatMap(({ feature, outcome }) => (outcome === 'left out' ? [feature] : []));
  };
  const found = new Set(names.length ? await goes(names) : []);
  // What is seen only on something that was left out, too: a share that it is seen through.
  for (const name of names) if (!found.has(name) && (await goes([name])).includes(name)) found.add(name);
  return names.filter((name) => found.has(name));
}

/** What is lost in each version of a target, and how large the copy will be: it is written, mark and all, but to nowhere. */
export async function carry(
  { masters, services }: Engine,
  { master: id, target, options, scope, choices, quick }: RecipeData & { master: string; quick: boolean },
): Promise<{ words: string; occurs: string[]; rungs: Rung[] }> {
  const { rev, time, master } = (await masters.load(id)).head;
  const { versions } = declarationOf(target);
  // What was asked for is checked before it is asked of every version.
  recipeOf(target, options, scope, newId(), choices);
  const rungs: Rung[] = [];
  for (const version of versions?.values ?? [null]) {
    const own = version === null ? options : { ...options, [versions!.option]: version };
    const recipe = fittedTo(recipeOf(target, own, scope, newId(), choices), master);
    const { report, bytes } = quick
      ? { ...(await project(master, recipe, services)), bytes: null }
      : await forecastOf({ master, rev, time }, recipe, services);
    rungs.push({ version: version ?? '', report, bytes });
  }
  const occurs = await whatOccurs(master, { target, options, scope, choices }, services);
  return { words: ladderInWords(rungs), occurs, rungs };
}

/** The options with the least loss by which a copy is no larger than asked. @throws Failure `size-unreachable` */
export async function fit(
  { masters, services }: Engine,
  { master: id, target, options, scope, choices, most }: RecipeData & { master: string; most: number },
): Promise<{ options: Options; bytes: number; tried: number }> {
  const { rev, time, master } = (await masters.load(id)).head;
  const asked = fittedTo(recipeOf(target, options, scope, newId(), choices), master);
  // By ids, as the copy will state it: its mark is as long then.
  const recipe = { ...asked, scope: fixedScope(master, asked.scope) };
  const found = await fitSize({ master, rev, time }, recipe, most, services);
  return { options: found.recipe.options, bytes: found.bytes, tried: found.tried.length };
}

/** What keeps a master from being made on a machine; where nothing does, how long that works at it. */
export async function machineFit(
  { masters, services }: Engine,
  { master: id, target, options, scope, choices }: RecipeData & { master: string },
): Promise<{ findings: readonly Finding[]; job: JobSize | null }> {
  const { master } = (await masters.load(id)).head;
  return fitMachine(master, fittedTo(recipeOf(target, options, scope, newId(), choices), master), services);
}

/** A copy as it will be, beside the master: its bytes are written and read back, and kept nowhere. */
export async function foresee(
  { masters, services }: Engine,
  {
    master: id,
    leaf,
    row,
    target,
    options,
    scope,
    choices,
  }: RecipeData & { master: string; leaf: number; row: VariantRow | null },
): Promise<Uint8Array> {
  const { rev, time, master } = (await masters.load(id)).head;
  const recipe = fittedTo(recipeOf(target, options, scope, newId(), choices, row), master);
  const { view, bodies } = matchOfForeseen(await foreseeCopy({ master, rev, time }, recipe, services), target, leaf);
  return gzipSync(packMatch(view, bodies), { level: 1 });
}

/** What the rows of a table would be copies of, in their order. @throws Failure `table-unknown`, `variant-invalid` */
export async function variants(
  { masters }: Engine,
  { master: id, table: named, serial }: { master: string; table: string; serial: string },
): Promise<VariantName[]> {
  const { master } = (await masters.load(id)).head;
  const [table] = tablesIn(master, { of: 'tables', ids: [named] }).tables;
  if (!table) throw new Failure('table-unknown', 'There is no such table in this master any more.');
  return variantsOf(master, table, serial);
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

/** A full comparison with both sides of one part, packed and compressed. */
export async function match({ copies }: Engine, { copy, leaf }: { copy: string; leaf: number }): Promise<Uint8Array> {
  const { view, bodies } = await copies.match(copy, leaf);
  return gzipSync(packMatch(view, bodies), { level: 1 });
}

/** What a program of an older version sees of a copy. */
export const openedBy = ({ copies }: Engine, { copy, reader }: { copy: string; reader: string }): Promise<SeenView> =>
  copies.seen(copy, reader);

export const accept = ({ copies }: Engine, { copy, by, reason }: { copy: string; by: string; reason: string }): Promise<void> =>
  copies.accept(copy, by, reason);

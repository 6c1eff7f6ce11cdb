import {
  type Choice,
  Failure,
  type HouseRules,
  type Preset,
  type Recipe,
  type ScopedParts,
  PART_LISTS,
  asFailure,
  assertHolds,
  declarationOf,
  listsOf,
  newId,
  partScope,
  presetOf,
  recipeOf,
} from '@inkwell-twin/core';
import type { Database } from '../database/database';
import type { Jobs } from '../jobs/jobs';
import { addRecipe, isAskedFor } from './recipes';

/** A copy that is to be made, and what it is called. */
interface Wanted {
  readonly recipe: Recipe;
  readonly label: string;
}

/** What could not be asked for, and why. */
interface NotAsked {
  readonly master: string;
  readonly title: string;
  readonly settings: string;
  readonly message: string;
}

/**
 * The copies that settings make of a master: one of all its parts where a copy can say several, or else one of each.
 * @throws Failure `no-part` where the master has nothing that they say
 */
function wantedOf(parts: ScopedParts, { name, target, options, without }: Preset): Wanted[] {
  const declaration = declarationOf(target);
  const choices = without.map((feature): Choice => ({ feature, take: 'left out' }));
  const recipe = (scope: Recipe['scope']): Recipe => recipeOf(target, options, scope, newId(), choices);
  const whole = recipe({ of: 'master' });
  if (declaration.renditions) return [{ recipe: whole, label: name }];
  const lists = listsOf(declaration, whole.options);
  const found = PART_LISTS.filter((list) => lists.includes(list)).flatMap((list) =>
    (parts[list] ?? []).map((part) => ({ list, ...part })),
  );
  const [first] = found;
  if (!first) {
    assertHolds(whole, parts);
    throw new Failure('no-part', `${declaration.label} says nothing of what is in this master.`);
  }
  if (found.length > 1 && declaration.holds.leaves === 'many') return [{ recipe: whole, label: name }];
  return found.map(({ list, id, name: part }) => ({
    recipe: recipe(partScope(list, id)),
    label: (found.length > 1 ? `${name}, ${part}` : name).slice(0, 120),
  }));
}

/**
 * Asks for the copies that settings make of a master, but for those that are asked for already in just that way.
 * @param standing whether it is a standing order: its copies are written with each update, and what somebody withdrew stays withdrawn
 * @returns how many were asked for
 * @throws Failure where such a master can't be made into such copies
 */
export async function askByPreset(
  database: Database,
  jobs: Jobs,
  master: { readonly id: string; readonly parts: ScopedParts },
  preset: Preset,
  standing = false,
): Promise<number> {
  const fresh: Wanted[] = [];
  for (const one of wantedOf(master.parts, preset))
    if (!(await isAskedFor(database, master.id, one.recipe, standing))) fresh.push(one);
  await database.transaction(async (client) => {
    for (const { recipe, label } of fresh) {
      await addRecipe(client, master.id, label, recipe, { eachUpdate: standing });
      await jobs.derive(master.id, recipe.id, label, client);
    }
  });
  return fresh.length;
}

/**
 * Asks for copies of several masters by several settings of the house. What can't be made does not keep the rest, and what is asked
 * for already in just that way is not asked for again.
 * @param names of the settings
 * @throws Failure `preset-unknown`
 */
export async function deriveMany(
  database: Database,
  jobs: Jobs,
  rules: HouseRules,
  masters: readonly string[],
  names: readonly string[],
): Promise<{ count: number; failed: NotAsked[] }> {
  const presets = names.map((name) => presetOf(rules, name));
  const failed: NotAsked[] = [];
  let count = 0;
  for (const id of masters) {
    const [master] = await database.rows<{ title: string; parts: ScopedParts }>(
      'select title, part_names as parts from master where id = $1 and thrown_at is null',
      [id],
    );
    const before = count;
    for (const preset of presets) {
      const fail = (message: string): void =>
        void failed.push({ master: id, title: master?.title ?? '', settings: preset.name, message });
      if (!master) {
        fail('There is no such master on this Desk.');
        continue;
      }
      try {
        const asked = await askByPreset(database, jobs, { id, parts: master.parts }, preset);
        if (!asked) fail('It has this copy already.');
        count += asked;
      } catch (error) {
        const { code, message } = asFailure(error);
        if (code === 'unavailable' || code === 'unexpected') throw error;
        fail(message);
      }
    }
    if (count > before) await jobs.event({ kind: 'copies', master: id });
  }
  return { count, failed };
}

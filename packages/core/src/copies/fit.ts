import { kindById } from '../content/kinds';
import type { MachineProfile } from '../base/machines';
import type { Declaration } from '../contracts/declaration';
import { Failure } from '../base/failure/failure';
import type { Finding, JobSize } from '../contracts/finding';
import { formatMark } from '../contracts/mark';
import { UNSEALED } from '../contracts/seal';
import type { Services } from '../contracts/services';
import type { Master } from '../document/schema';
import { trimmedMaster } from '../evaluate/boards/trimmed';
import { placedMaster } from '../evaluate/placed/evaluate';
import { declarationOf, declarations } from '../formats/declarations';
import { codecOf } from '../formats/registry';
import { assertComputes, assertHolds, project } from './derive';
import { type Recipe, carriesOf, howOf } from './recipe';
import { overMemory } from './machine-limits';
import { variantOf } from './variants';

/** As long as any time that a mark states. */
const SOME_TIME = '2026-01-01T00:00:00.000Z';

/** The target whose files a machine takes. @throws Failure `machine-unknown` where none is written here */
export function targetFor({ name, language }: Pick<MachineProfile, 'name' | 'language'>): Declaration {
  const found = declarations().find(({ id, standard }) => standard === language && isForMachine(id));
  if (found) return found;
  throw new Failure('machine-unknown', `Nothing here writes ${language}, which ${name} takes.`);
}

/** Whether copies by a target are for a machine that a part has to fit. */
export const isForMachine = (target: string): boolean => 'machine' in declarationOf(target).options.shape;

/**
 * What keeps a master from being made on the machine that a recipe is for, gravest first; nothing where it fits.
 * @throws Failure `other-target` where the target is for no machine, and those of deriving
 */
export async function fitOf(given: Master, recipe: Recipe, services: Services): Promise<readonly Finding[]> {
  if (!isForMachine(recipe.target))
    throw new Failure('other-target', `${declarationOf(recipe.target).label} is for no machine: nothing has to fit.`);
  const master = variantOf(given, recipe.row);
  assertHolds(recipe, master);
  assertComputes(master, recipe.scope, services);
  const placed = trimmedMaster(await placedMaster(master, services), recipe.scope, services.fonts);
  const found: Finding[] = [];
  for (const [id, carries] of Object.entries(carriesOf(recipe))) {
    const kind = kindById(id);
    for (const { source } of kind.resolve(placed, recipe.scope, services, carries))
      found.push(...((await kind.fit?.(source, carries, services)) ?? []));
  }
  return found;
}

/** How a master fits a machine: what is to be settled, or else how long the machine works at it. */
export async function machineFit(
  master: Master,
  recipe: Recipe,
  services: Services,
): Promise<{ readonly findings: readonly Finding[]; readonly job: JobSize | null }> {
  const findings = await fitOf(master, recipe, services);
  if (findings.length) return { findings, job: null };
  const { projection } = await project(master, recipe, services);
  // How large a file is shows only once it is written, with a mark as long as its own.
  const mark = formatMark({
    master: master.id,
    rev: 1,
    recipe: recipe.id,
    says: UNSEALED,
    written: SOME_TIME,
    how: howOf(recipe),
  });
  const files = await (await codecOf(recipe.target)).write(projection, recipe.options, mark, services);
  const over = overMemory(recipe, files);
  if (over) return { findings: [over], job: null };
  const [leaf] = projection.leaves;
  const carries = leaf && carriesOf(recipe)[leaf.kind];
  return { findings, job: (carries && kindById(leaf.kind).size?.(leaf.body, carries)) ?? null };
}

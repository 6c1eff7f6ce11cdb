import type { CopyContent } from '../contracts/codec';
import type { Comparison } from '../contracts/kind';
import type { Carries } from '../contracts/leaf';
import type { Services } from '../contracts/services';
import { kindDeclaration } from '../content/declarations';
import { declarationOf } from '../formats/declarations';
import { compareContents } from './compare-contents';
import { derive, namesIn, project } from './derive';
import { type Recipe, carriesOf } from './recipe';
import type { RevisionOf } from './revision';

/** A copy as it will be, beside what it will be made of. Nothing of it is kept. */
export interface Foreseen {
  readonly comparison: Comparison;
  /** What the master says, nothing lost, and what the written bytes say. */
  readonly sides: { readonly master: CopyContent; readonly copy: CopyContent };
}

/** What a recipe's copy would carry if its target lost nothing; features that its content is made by stay as they are. */
function lossless(recipe: Recipe): Carries {
  return Object.fromEntries(
    Object.entries(carriesOf(recipe)).map(([id, carries]) => {
      const features = kindDeclaration(id)?.features ?? {};
      const held = Object.entries(carries as Record<string, unknown>).map(([name, carry]) => {
        const { aside, ofMany } = features[name] ?? {};
        return [name, aside || ofMany ? carry : 'kept'];
      });
      return [id, Object.fromEntries(held)];
    }),
  ) as Carries;
}

/**
 * Makes a copy and keeps it nowhere: what its bytes say, and where that is otherwise than what is in the master itself, whatever the
 * recipe allows.
 * @throws Failure as deriving does
 */
export async function foresee(revision: RevisionOf, recipe: Recipe, services: Services): Promise<Foreseen> {
  const { back } = await derive(revision, recipe, services);
  const whole = await project(revision.master, recipe, services, lossless(recipe));
  const master = { leaves: whole.projection.leaves };
  const copy = { leaves: back.leaves };
  const comparison = compareContents(master, copy, {
    tolerance: declarationOf(recipe.target).tolerance,
    carries: lossless(recipe),
    nameOf: namesIn(revision.master),
  });
  return { comparison, sides: { master, copy } };
}

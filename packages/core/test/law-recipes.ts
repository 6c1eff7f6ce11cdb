import { type PartList, type Recipe, declarations, listsOf, parseOptions, recipeOf } from '../src';
import { gathered } from '../src/formats/gathered/laws';

/**
 * The recipes that each format names for the laws, of those that say what stands in a list of the master.
 * @param firsts the ids of things in that list, of which the recipes for one of them take turns; empty: whatever is first
 */
export function lawRecipes(list: PartList, firsts: readonly string[] = ['']): Recipe[] {
  let turn = 0;
  return declarations()
    .filter((one) => listsOf(one, parseOptions(one, {})).includes(list))
    .flatMap(({ id }) =>
      (gathered[id] ?? []).map(({ options, of, choices }) =>
        recipeOf(id, options, of ? { of } : firsts[turn++ % firsts.length], undefined, choices),
      ),
    )
    .filter(({ scope }) => scope.of === 'master' || scope.of === list);
}

/** The formats that say what stands in a list of the master, for seeing that each names recipes. */
export const formatsOf = (list: PartList): Set<string> =>
  new Set(declarations().flatMap((one) => (listsOf(one, parseOptions(one, {})).includes(list) ? [one.id] : [])));

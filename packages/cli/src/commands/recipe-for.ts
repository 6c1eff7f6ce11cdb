import {
  Failure,
  type Master,
  type NativePackage,
  type Recipe,
  type Scope,
  allItems,
  boardsIn,
  declarationOf,
  fittedTo,
  fixedScope,
  freshOptions,
  optionsByMaster,
} from '@inkwell-twin/core';
import { type Arguments, recipeFrom } from './shared';

/** How a command line asks for a copy of a master. */
export function recipeFor(pkg: NativePackage, args: Arguments): Recipe {
  const { master } = pkg;
  const names = args.to ? Object.keys(declarationOf(args.to).options.shape) : [];
  const fresh = args.to ? freshOptions(declarationOf(args.to)) : {};
  // Words, as if they had been given on the line.
  const options = Object.fromEntries(
    Object.entries(optionsByMaster(master, names, { ...fresh, ...args.options })).map(([name, value]) => [name, String(value)]),
  );
  const asked = fittedTo(recipeFrom({ ...args, options }), master);
  // By their ids, so that the copy keeps to its parts when they get other names.
  const named = asked.scope.of !== 'master' && (asked.scope.ids.length > 0 || args.objects.length > 0);
  return named ? { ...asked, scope: withObjects(master, fixedScope(master, asked.scope)) } : asked;
}

/** A scope with the ids of its objects in the place of names. @throws Failure `object-unknown` that lists names there are */
function withObjects(master: Master, scope: Scope): Scope {
  if (scope.of !== 'boards' || !scope.objects) return scope;
  const all = boardsIn(master, scope).boards.flatMap(({ items }) => [...allItems(items)]);
  const objects = scope.objects.flatMap((name) => {
    const found = all.filter((item) => item.id === name || item.name === name);
    if (found.length) return found.map(({ id }) => id);
    const names = [...new Set(all.flatMap(({ name: one }) => (one ? [one] : [])))].slice(0, 20).join(', ');
    throw new Failure(
      'object-unknown',
      `There is no object “${name}” on that board. ${names ? `Named are: ${names}.` : 'Name one by its id.'}`,
    );
  });
  return { ...scope, objects };
}

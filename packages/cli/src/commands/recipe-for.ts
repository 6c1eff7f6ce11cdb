import { declarationOf, fittedTo, fixedScope, type NativePackage, optionsByMaster, type Recipe } from '@inkwell-twin/core';
import { type Arguments, recipeFrom } from './shared';

/** How a command line asks for a copy of a master. */
export function recipeFor(pkg: NativePackage, args: Arguments): Recipe {
  const { master } = pkg;
  const names = args.to ? Object.keys(declarationOf(args.to).options.shape) : [];
  // Words, as if they had been given on the line.
  const options = Object.fromEntries(
    Object.entries(optionsByMaster(master, names, args.options)).map(([name, value]) => [name, String(value)]),
  );
  const asked = fittedTo(recipeFrom({ ...args, options }), master);
  // By their ids, so that the copy keeps to its parts when they get other names.
  const named = asked.scope.of !== 'master' && asked.scope.ids.length > 0;
  return named ? { ...asked, scope: fixedScope(master, asked.scope) } : asked;
}

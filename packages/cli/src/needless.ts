import { Failure, declarationOf, optionFields, parseOptions } from '@inkwell-twin/core';

/**
 * Refuses an option that says nothing beside the others, so that nobody waits for what it asks.
 * @param set those that were set by name
 * @param all with them those kept under a name
 * @throws Failure `option-invalid` that says what it needs
 */
export function refuseNeedless(target: string, set: readonly string[], all: Readonly<Record<string, string>>): void {
  const declaration = declarationOf(target);
  const values = parseOptions(declaration, all) as Readonly<Record<string, unknown>>;
  for (const { name, only } of optionFields(declaration)) {
    if (!set.includes(name)) continue;
    const other = Object.entries(only.with ?? {}).find(([one, wanted]) => !wanted.includes(String(values[one])));
    const needs = only.machine && !values['machine'] ? '--machine M' : other && `--set ${other[0]}=${other[1].join('|')}`;
    if (needs) throw new Failure('option-invalid', `The option “${name}” of ${target} says something only with ${needs}.`);
  }
}

import { type Declaration, kindDeclaration, parseOptions } from '@inkwell-twin/core';

/** What can be left out of a copy of a target, each once: the features that it carries and that somebody may do without. */
export function optionalFeatures(declaration: Declaration): { name: string; words: string }[] {
  const found = new Map<string, { name: string; words: string }>();
  for (const [kind, carries] of Object.entries(declaration.carries(parseOptions(declaration, {}))))
    for (const [name, carry] of Object.entries(carries as object)) {
      const row = kindDeclaration(kind)?.features[name];
      if (row?.optional && carry !== 'left out') found.set(name, { name, words: row.words });
    }
  return [...found.values()];
}

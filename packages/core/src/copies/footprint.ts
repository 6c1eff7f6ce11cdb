import { digest } from '../base/bytes/hasher';
import { kindDeclaration } from '../content/declarations';
import type { LeafPrint } from '../contracts/kind';
import type { Carries } from '../contracts/leaf';
import type { Master } from '../document/schema';
import { declarationOf } from '../formats/declarations';
import { printOfDescription } from './described';
import { printOfEnclosed } from './enclosed';
import { type Recipe, carriesOf, isSingle, recipeKey } from './recipe';
import { missingOf, variantOf } from './variants';

/** What a copy depends on: one hash for all of it, one for each part, and node by node for naming what changed. */
export interface Footprint {
  readonly hash: string;
  /** Part → hash. */
  readonly leaves: ReadonlyMap<string, string>;
  /** Node → feature → what was read there. */
  readonly parts: () => ReadonlyMap<string, ReadonlyMap<string, string>>;
}

type Made = Pick<Recipe, 'target' | 'options' | 'choices' | 'scope' | 'row'>;

/** What recipes carry, by their keys: a Desk has hundreds of copies, made by few. */
const known = new Map<string, Carries>();
const MOST = 1000;

const printsOf = (given: Master, recipe: Made): LeafPrint[] => {
  const master = variantOf(given, recipe.row);
  // Names of parts are carried only where there are several, so that the same target and options may carry two ways.
  const many = isSingle(recipe.scope) ? '' : ' many';
  const key = recipeKey(recipe) + many;
  let all = known.get(key);
  if (!all) {
    if (known.size >= MOST) known.clear();
    known.set(key, (all = carriesOf(recipe)));
  }
  const prints = Object.entries(all).flatMap(([kind, carries]) =>
    [...(kindDeclaration(kind)?.footprint(master, recipe.scope, carries as never) ?? [])].map((print) => ({
      ...print,
      key: `${kind} ${print.key}`,
    })),
  );
  const { encloses, describes } = declarationOf(recipe.target);
  // What is said of it, and what travels inside, is the master itself, whatever the row of a variant.
  return [
    ...prints,
    ...(describes?.(recipe.options) ? [printOfDescription(given)] : []),
    ...(encloses?.(recipe.options) ? [printOfEnclosed(given)] : []),
  ];
};

/** The hash of everything that a copy made by this recipe depends on; a word of its own where a part of it is not there. */
export function footprintHash(master: Master, recipe: Made): string {
  if (missingOf(master, recipe).length) return 'no part';
  const prints = printsOf(master, recipe);
  return prints.length === 1 ? prints[0]!.hash : digest(prints.map(({ key, hash }) => `${key} ${hash}`).join('\n')).slice(0, 32);
}

/** The footprint with its parts: for naming what ended a match span. */
export function footprintOf(master: Master, recipe: Made): Footprint {
  // Where there can be no copy, it depends on nothing.
  const prints = missingOf(master, recipe).length ? [] : printsOf(master, recipe);
  return {
    hash: footprintHash(master, recipe),
    leaves: new Map(prints.map(({ key, hash }) => [key, hash])),
    parts: () => {
      const all = new Map<string, ReadonlyMap<string, string>>();
      for (const { parts } of prints)
        for (const [node, features] of parts()) all.set(node, new Map([...(all.get(node) ?? []), ...features]));
      return all;
    },
  };
}

/** What of each object changed that is carried: object → features; come and gone objects with all of theirs. */
export function changedParts(before: Footprint, after: Footprint): Map<string, string[]> {
  const changed = new Map<string, string[]>();
  if (before.hash === after.hash) return changed;
  const [old, now] = [before.parts(), after.parts()];
  for (const node of new Set([...old.keys(), ...now.keys()])) {
    const [x, y] = [old.get(node), now.get(node)];
    const features = [...new Set([...(x?.keys() ?? []), ...(y?.keys() ?? [])])].filter((name) => x?.get(name) !== y?.get(name));
    if (features.length) changed.set(node, features);
  }
  return changed;
}

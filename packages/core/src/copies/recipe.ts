import * as z from 'zod';
import { kindDeclaration } from '../content/declarations';
import type { Carry } from '../contracts/kind';
import type { Carries } from '../contracts/leaf';
import { Failure } from '../base/failure/failure';
import { canonical } from '../document/hash';
import { idFrom } from '../document/ids';
import type { Declaration, Options } from '../contracts/declaration';
import { declarationOf, parseOptions } from '../formats/declarations';
import { Choice, PARTS, type PartList, Scope, VariantRow } from '../contracts/schemas';
import { type ScopedParts, partScope } from '../contracts/scope';

/** What to derive and how: a part of the master, a target, its options, and choices about single features. */
export interface Recipe {
  readonly id: string;
  readonly scope: Scope;
  readonly target: string;
  readonly options: Options;
  readonly choices: readonly Choice[];
  /** The row that gives parameters their values in this copy; null where they have those of the master. */
  readonly row: VariantRow | null;
}

/** A text that is equal for equal target, options and choices: what `carries` depends on. */
export const recipeKey = ({ target, options, choices }: Pick<Recipe, 'target' | 'options' | 'choices'>): string =>
  canonical(choices.length ? [target, options, choices] : [target, options]);

/**
 * A recipe with checked options. Without an id of its own it gets one that says the same each time.
 * @param scope a scope, or the name of one part (empty for the first); one that names nothing is the first part of what the target says
 * @throws Failure `target-unknown`, `option-invalid`, `scope-unfit` where a target says nothing of such parts
 */
export function recipeOf(
  target: string,
  options: Readonly<Record<string, unknown>>,
  scope: Scope | string = '',
  id?: string,
  choices: readonly Choice[] = [],
  row: VariantRow | null = null,
): Recipe {
  const declaration = declarationOf(target);
  const values = parseOptions(declaration, options);
  const part = fitScope(declaration, values, scope);
  const recipe = { scope: part, target, options: values, choices, row };
  return { id: id ?? idFrom(canonical(recipe)), ...recipe };
}

/** The lists of parts that a target says something of. */
export const listsOf = (declaration: Declaration, options: Options): PartList[] => [
  ...new Set(Object.keys(declaration.carries(options)).map((kind) => kindDeclaration(kind)?.of ?? 'boards')),
];

function fitScope(declaration: Declaration, options: Options, scope: Scope | string): Scope {
  const lists = listsOf(declaration, options);
  // Of the whole master alone.
  if (declaration.renditions) return { of: 'master' };
  if (typeof scope === 'string') return partScope(lists[0]!, scope);
  if (scope.of === 'master' || lists.includes(scope.of)) return scope;
  if (!scope.ids.length) return partScope(lists[0]!);
  const words = lists.map((list) => `${PARTS[list]}s`).join(' and ');
  throw new Failure(
    'scope-unfit',
    `${declaration.label} says ${words}, and this asks for ${PARTS[scope.of]}s. Name a ${PARTS[lists[0]!]}.`,
  );
}

/**
 * A recipe that names no part, for a master that has none of that list: of the first list that both the master and the target have.
 */
export function fittedTo<R extends Pick<Recipe, 'target' | 'options' | 'scope'>>(recipe: R, master: ScopedParts): R {
  const { scope, target, options } = recipe;
  if (scope.of === 'master' || scope.ids.length || master[scope.of]?.length) return recipe;
  const list = listsOf(declarationOf(target), options).find((one) => master[one]?.length);
  return list ? { ...recipe, scope: partScope(list) } : recipe;
}

/** Whether a scope is one part: its name is that of the copy. */
export const isSingle = (scope: Scope): boolean => scope.of !== 'master' && scope.ids.length < 2;

/** What a recipe's copy carries of each kind of content: what the target holds, less what its choices leave out. */
export function carriesOf(recipe: Pick<Recipe, 'target' | 'options' | 'choices' | 'scope'>): Carries {
  const carries = declarationOf(recipe.target).carries(recipe.options);
  const left = new Set(recipe.choices.map(({ feature }) => feature));
  const single = isSingle(recipe.scope);
  if (!left.size && !single) return carries;
  return Object.fromEntries(
    Object.entries(carries).map(([kind, features]) => [
      kind,
      Object.fromEntries(
        Object.entries(features as Record<string, Carry>).map(([name, carry]) => [
          name,
          left.has(name) || (single && kindDeclaration(kind)?.features[name]?.ofMany) ? 'left out' : carry,
        ]),
      ),
    ]),
  ) as Carries;
}

/** Target, options, choices, scope and writer as the mark of origin states them. */
export function howOf({ target, options, choices, scope, row }: Recipe): string {
  const { writer } = declarationOf(target);
  return canonical({ target, options, scope, writer, ...(choices.length ? { choices } : {}), ...(row ? { row } : {}) });
}

const How = z.object({
  target: z.string(),
  options: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])),
  scope: Scope,
  writer: z.string(),
  choices: z.array(Choice).default([]),
  row: VariantRow.nullable().default(null),
});

/** How marks stated recipes before they were JSON: `target?name=value&…#board`. */
const BEFORE = /^([a-z0-9]+)\?([^#]*)#(.*)$/s;

/**
 * The recipe that a mark states, and the version of the writer that made the copy (empty in marks from before there were any).
 * @throws Failure `mark-damaged`, `target-unknown`, `option-invalid`
 */
export function recipeOfHow(how: string, id: string): Recipe & { readonly writer: string } {
  const before = BEFORE.exec(how);
  if (before) {
    const options = Object.fromEntries(
      before[2]!
        .split('&')
        .filter(Boolean)
        .map((pair) => [pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1)]),
    );
    return { ...recipeOf(before[1]!, options, before[3]!, id), writer: '' };
  }
  let stated: unknown;
  try {
    stated = JSON.parse(how);
  } catch {
    stated = null;
  }
  const found = How.safeParse(stated);
  if (!found.success) throw new Failure('mark-damaged', 'The mark of origin does not say how the copy was made.');
  const { target, options, scope, writer, choices, row } = found.data;
  return { ...recipeOf(target, options, scope, id, choices, row), writer };
}

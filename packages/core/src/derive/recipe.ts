import { Failure } from '../failure/failure';
import { idFrom } from '../master/ids';
import { recipeKey } from '../targets/recipe-key';
import { parseOptions, targetById } from '../targets/registry';
import type { OptionValues, Target } from '../targets/target';

/** What to derive and how: a board, a target and its options. */
export interface Recipe {
  readonly id: string;
  /** Name or id of the board; empty for the first. */
  readonly board: string;
  readonly target: Target;
  readonly options: OptionValues;
}

/** A recipe with checked options. Without an id of its own it gets one that says the same each time. */
export function recipeOf(target: string, options: Readonly<Record<string, unknown>>, board = '', id?: string): Recipe {
  const found = targetById(target);
  const values = parseOptions(found, options);
  return { id: id ?? idFrom(`${recipeKey(found, values)} ${board}`), board, target: found, options: values };
}

/** Target, options and board as the mark of origin states them. */
export const howOf = ({ target, options, board }: Recipe): string => `${recipeKey(target, options)}#${board}`;

/** The recipe that a mark states. @throws Failure `mark-damaged`, `target-unknown`, `option-invalid` */
export function recipeOfHow(how: string, id: string): Recipe {
  const match = /^([a-z0-9]+)\?([^#]*)#(.*)$/s.exec(how);
  if (!match) throw new Failure('mark-damaged', 'The mark of origin does not say how the copy was made.');
  const options = Object.fromEntries(
    match[2]!
      .split('&')
      .filter(Boolean)
      .map((pair) => [pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1)]),
  );
  return recipeOf(match[1]!, options, match[3]!, id);
}

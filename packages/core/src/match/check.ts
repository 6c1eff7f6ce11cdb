import { namesIn, footprintOfRecipe, project } from '../derive/derive';
import type { Recipe } from '../derive/recipe';
import { asFailure, whereInWords } from '../failure/failure';
import type { FontBook } from '../fonts/font-book';
import { findBoard } from '../master/resolve';
import type { Master } from '../master/schema';
import { digestOf } from '../projection/digest';
import type { DisplayList } from '../projection/display-list';
import type { ReadCopy } from '../targets/target';
import { type Comparison, compare } from './compare';
import { type Difference, byImportance } from './difference';
import { unreadDifferences } from './unread';
import { type Answers, type Verdict, verdictOf } from './verdict';

/** What is known about a copy when it is checked. */
export interface CheckInput {
  /** The file's bytes; null when it is missing. */
  readonly bytes: Uint8Array | null;
  /** Whether the bytes are those that were written. */
  readonly whole: boolean;
  /** What the copy said when it was written. */
  readonly says: string;
  readonly recipe: Recipe;
  readonly now: Master;
  /** The master at the revision that the copy was made from; null when that is not at hand. */
  readonly then: Master | null;
  readonly tolerance?: number;
  /** Whether nothing that the copy carries has changed since, where that is known already; else it is found here. */
  readonly fresh?: boolean;
}

/** The outcome of a match check, with its proof. */
export interface CheckResult {
  readonly verdict: Verdict;
  readonly remark: string;
  /** The three questions, each with its answer; null where it was not needed or could not be answered. */
  readonly whole: boolean;
  readonly fresh: boolean | null;
  readonly true: boolean | null;
  /** One sentence that says what the verdict rests on. */
  readonly proof: string;
  readonly differences: readonly Difference[];
  readonly outlines: number;
  readonly equal: number;
  /** Both sides, where the file was read. */
  readonly sides: { readonly master: DisplayList; readonly copy: DisplayList } | null;
}

const none = { differences: [], outlines: 0, equal: 0, sides: null };

/**
 * Checks one copy: is it whole, is it fresh, is it true? A whole copy whose footprint is unchanged is in step by proof and
 * is not even read; in every other case the file is read and compared.
 * @param always reads and compares even where the short proof would do, to have both sides for showing
 */
export function checkCopy(input: CheckInput, fonts: FontBook, always = false): CheckResult {
  const { bytes, recipe, now, then, whole } = input;
  if (!bytes)
    return {
      ...none,
      verdict: 'gone',
      remark: '',
      whole: false,
      fresh: null,
      true: null,
      proof: 'The file is not there any more.',
    };
  if (!findBoard(now, recipe.board))
    return {
      ...none,
      verdict: whole ? 'behind' : 'crossed',
      remark: '',
      whole,
      fresh: false,
      true: false,
      proof: `The master has no board “${(then && findBoard(then, recipe.board)?.name) ?? recipe.board}” any more.`,
    };
  const fresh = input.fresh ?? (then ? footprintOfRecipe(then, recipe) === footprintOfRecipe(now, recipe) : null);
  if (whole && fresh && !always)
    return {
      ...none,
      verdict: 'in step',
      remark: '',
      whole,
      fresh,
      true: true,
      proof: 'The bytes are as written, and nothing that this copy carries has changed since.',
    };
  let read: ReadCopy;
  try {
    read = recipe.target.read(bytes);
  } catch (error) {
    const failure = asFailure(error);
    const where = whereInWords(failure.where);
    return {
      ...none,
      verdict: 'unreadable',
      remark: '',
      whole,
      fresh,
      true: null,
      proof: `${failure.message}${where ? ` (${where})` : ''}`,
    };
  }
  const settings = {
    tolerance: input.tolerance ?? recipe.target.tolerance,
    order: recipe.target.carries(recipe.options).order,
  };
  const same = (a: DisplayList, b: DisplayList): boolean => compare(a, b, settings).differences.length === 0;
  const listNow = project(now, recipe, fonts).projection;
  // In bytes of our own there is nothing that our own reader does not know; derive makes sure of that.
  const unread = whole ? [] : unreadDifferences(read.notUnderstood);
  const compared = compare(listNow, read.list, { ...settings, nameOf: namesIn(now) });
  const comparison = { ...compared, differences: [...compared.differences, ...unread].sort(byImportance) };
  const saysNow = comparison.differences.length === 0;
  const listThen = fresh || !then ? null : project(then, recipe, fonts).projection;
  const isThen = (): boolean =>
    digestOf(read.list) === input.says || (fresh ? saysNow : listThen !== null && same(listThen, read.list));
  const saysThen = whole || (!unread.length && isThen());
  const nowIsThen = fresh ?? (listThen ? same(listNow, listThen) : digestOf(listNow) === input.says);
  const answers: Answers = { whole, saysThen, saysNow, nowIsThen };
  return {
    ...verdictOf(answers),
    whole,
    fresh,
    true: saysNow,
    proof: proofOf(answers, comparison),
    ...comparison,
    sides: { master: listNow, copy: read.list },
  };
}

function proofOf({ whole, saysThen, saysNow }: Answers, { outlines, equal, differences }: Comparison): string {
  const bytes = whole
    ? 'The bytes are as written'
    : saysThen
      ? 'The file was re-written but says the same'
      : 'The file was changed since it was written';
  if (saysNow) return `${bytes}; read back, it says what the master says now.`;
  const count = differences.length === 1 ? '1 difference' : `${differences.length} differences`;
  return `${bytes}; read back, it has ${count} from the master now (${equal} of ${outlines} outlines agree).`;
}

import type { ColumnType } from '../../document/tables/schema';
import { daysOf } from '../../evaluate/tables/dates';
import { dateFrom, numberFrom } from '../../evaluate/tables/typed';
import type { GridColumn } from './grid';

/** A column with its cells as one kind: what is not of it stands as words. */
export interface Typed {
  readonly as: ColumnType;
  readonly numbers: Float64Array;
  readonly words: readonly string[] | null;
}

const NO_NUMBERS = new WeakMap<readonly string[], Float64Array>();
/** Words without numbers. */
function withoutNumbers(words: readonly string[]): Float64Array {
  let none = NO_NUMBERS.get(words);
  if (!none) NO_NUMBERS.set(words, (none = new Float64Array(words.length).fill(NaN)));
  return none;
}

const READ: Readonly<Record<ColumnType, ((word: string, decimal: '.' | ',') => number) | null>> = {
  number: numberFrom,
  // Of a year in two digits nobody knows whether it is the year, or the day.
  date: (word) => (/^\s*\d{4}/.test(word) ? daysOf(dateFrom(word, 'year first')) : NaN),
  'yes or no': (word) => (/^(yes|true)$/i.test(word) ? 1 : /^(no|false)$/i.test(word) ? 0 : NaN),
  text: null,
  category: null,
};

/**
 * A column with its cells read as a kind: words of a format without kinds become numbers where the other side has them, and
 * numbers become words where it has those.
 */
export function asTyped({ type, numbers, words }: GridColumn, as: ColumnType, count: number, decimal: '.' | ','): Typed {
  const read = READ[as];
  if (!read) return { as, numbers: numbers ?? withoutNumbers(words ?? []), words };
  if (type !== 'untyped' && !(words && !numbers)) return { as, numbers: numbers ?? new Float64Array(count).fill(NaN), words };
  const out = new Float64Array(count);
  let left: string[] | null = null;
  for (let i = 0; i < count; i++) {
    const word = words?.[i] ?? '';
    const value = word === '' ? NaN : read(word, decimal);
    out[i] = value;
    if (word !== '' && Number.isNaN(value)) (left ??= new Array<string>(count).fill(''))[i] = word;
  }
  return { as, numbers: out, words: left };
}

/** The kind that two columns are compared as. */
export const commonType = (master: GridColumn, copy: GridColumn, decimal: '.' | ','): ColumnType => {
  if (master.type !== 'untyped') return master.type;
  if (master.meant) return master.meant;
  if (copy.type !== 'untyped') return copy.type;
  // Both are words: they are numbers where all of one side are.
  const words = (master.words ?? []).filter(Boolean);
  return words.length && words.every((word) => !Number.isNaN(numberFrom(word, decimal))) ? 'number' : 'text';
};

/** How far numbers that were measured may be apart, as a share of themselves: formats and other programs keep 15 digits. */
export const DIGITS = 1e-14;
const HALF_A_SECOND = 0.5 / 86_400;

/**
 * Whether two numbers say the same. Whole ones, which count things or tell them apart, do so when they are the same, as far as
 * numbers are told apart (2^53); dates when they are the same second.
 * @param within a share of the larger one, for what is not whole
 */
export function sameNumber(x: number, y: number, within: number, as: ColumnType = 'number'): boolean {
  if (x === y) return true;
  if (as === 'date') return Math.abs(x - y) < HALF_A_SECOND;
  if (Number.isSafeInteger(x) && Number.isSafeInteger(y)) return false;
  return Math.abs(x - y) <= within * Math.max(Math.abs(x), Math.abs(y));
}

/** Whether two cells say the same. @param within as for `sameNumber` */
export function sameCell(a: Typed, i: number, b: Typed, j: number, within: number): boolean {
  const [x, y] = [a.numbers[i]!, b.numbers[j]!];
  if (Number.isNaN(x) || Number.isNaN(y))
    return Number.isNaN(x) && Number.isNaN(y) && (a.words?.[i] ?? '') === (b.words?.[j] ?? '');
  return sameNumber(x, y, within, a.as);
}

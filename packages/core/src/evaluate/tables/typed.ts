import type { Cell, Column } from '../../document/tables/schema';
import { LONGEST_CELL } from '../../document/tables/schema';
import { dateOf, daysOf } from './dates';

/** How numbers and dates are written in words that came from somewhere. */
export interface Writing {
  readonly decimal: '.' | ',';
  /** The order of a date's parts where it is not ISO 8601. */
  readonly dates: 'year first' | 'day first' | 'month first';
}
export const PLAIN: Writing = { decimal: '.', dates: 'year first' };

const [YES, NO] = [/^(yes|true|y)$/i, /^(no|false|n)$/i];
/** Digits in groups, each with one mark between them: of three, or as in India of two before the last three. */
const GROUPED = {
  '.': /^[+-]?\d{1,3}(?:([,'’ \u00a0\u202f])\d{3})(?:\1\d{3})*(\.\d+)?$|^[+-]?\d{1,2}(,\d{2})+,\d{3}(\.\d+)?$/,
  ',': /^[+-]?\d{1,3}(?:([.'’ \u00a0\u202f])\d{3})(?:\1\d{3})*(,\d+)?$/,
};
const NUMBER = { '.': /^[+-]?(\d+(?:\.\d*)?|\.\d+)([eE][+-]?\d+)?$/, ',': /^[+-]?(\d+(?:,\d*)?|,\d+)([eE][+-]?\d+)?$/ };

/** Whether a whole number has digits that no number here holds: they tell things apart, and stay words. */
const isBeyond = (word: string, value: number): boolean =>
  !Number.isSafeInteger(value) &&
  /^[+-]?\d+$/.test(word) &&
  ![BigInt(value).toString(), String(value)].includes(BigInt(word.replace(/^\+/, '')).toString());

/** A number as it is written; NaN where it is none, where it is beyond all numbers (1e400), and where its digits would be lost. */
export function numberFrom(text: string, decimal: Writing['decimal']): number {
  const word = text.trim().replace(/^\u2212/, '-');
  const plain = NUMBER[decimal].test(word)
    ? word
    : GROUPED[decimal].test(word)
      ? word.replace(decimal === '.' ? /[,'’ \u00a0\u202f]/g : /[.'’ \u00a0\u202f]/g, '')
      : null;
  if (plain === null) return NaN;
  const value = Number(plain.replace(',', '.'));
  return Number.isFinite(value) && !isBeyond(plain, value) ? value : NaN;
}

/** A date as ISO 8601; empty where it is none. */
export function dateFrom(text: string, order: Writing['dates']): string {
  const word = text.trim();
  const iso = daysOf(word);
  if (!Number.isNaN(iso)) return dateOf(iso);
  const found = /^(\d{1,4})[./-](\d{1,2})[./-](\d{1,4})(?:[ T,]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?$/.exec(word);
  if (!found) return '';
  const [a, b, c] = [found[1]!, found[2]!, found[3]!];
  const [year, month, day] =
    a.length === 4 ? [a, b, c] : order === 'month first' ? [c, a, b] : order === 'day first' ? [c, b, a] : [a, b, c];
  const two = (part: string) => part.padStart(2, '0');
  const full = year.length === 2 ? `20${year}` : year;
  const time = found[4] ? `T${two(found[4])}:${found[5]}${found[6] ? `:${found[6]}` : ''}` : '';
  const days = daysOf(`${full.padStart(4, '0')}-${two(month)}-${two(day)}${time}`);
  return Number.isNaN(days) ? '' : dateOf(days);
}

/** Words of a cell: one kind of line end, and no letter that no format can hold. */
export const plainWords = (text: string): string =>
  text
    .replace(/\r\n?/g, '\n')
    .replace(/\u0000/g, '')
    .slice(0, LONGEST_CELL);

/**
 * What was typed or pasted, as a cell of a column; undefined where it is empty. What does not fit stays words: nothing is lost,
 * and the column says where.
 */
export function cellFrom(text: string, { type }: Pick<Column, 'type'>, writing: Writing = PLAIN): Cell | undefined {
  const word = plainWords(text);
  if (!word.trim()) return undefined;
  if (type === 'number') {
    const value = numberFrom(word, writing.decimal);
    // Typed by hand a comma is a decimal mark where nothing else can be meant.
    const other = Number.isNaN(value) && writing === PLAIN ? numberFrom(word, ',') : value;
    return Number.isNaN(other) ? word.trim() : other;
  }
  if (type === 'date') return dateFrom(word, writing.dates) || word.trim();
  if (type === 'yes or no') return YES.test(word.trim()) ? true : NO.test(word.trim()) ? false : word.trim();
  return type === 'category' ? word.trim() : word;
}

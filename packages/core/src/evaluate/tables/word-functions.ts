import { plainNumber } from '../../base/bytes/numbers';
import { dateOf, daysOf } from './dates';
import { numberInWords, rounded } from './values';

type Value = string | number | boolean;
/** What is given up where a value can't be computed: all that uses it can't be either. */
const NONE = NaN;

const asWords = (value: Value): string => (typeof value === 'number' ? numberInWords(value, undefined) : String(value));
const isMissing = (value: Value): boolean => typeof value === 'number' && !Number.isFinite(value);

/** A function of words: letters are counted as people see them, from 1. */
const ofWords =
  <T extends Value>(of: (word: string, ...more: Value[]) => T) =>
  (word: Value, ...more: Value[]): T | number =>
    [word, ...more].some(isMissing) ? NONE : of(asWords(word), ...more);
const whole = (value: Value | undefined, otherwise: number): number =>
  value === undefined ? otherwise : Math.max(0, Math.trunc(Number(value)));

/** A part of a date, of days since 1970-01-01. */
const ofDate = (of: (date: Date) => number) => (days: Value) =>
  typeof days !== 'number' || dateOf(days) === '' ? NONE : of(new Date(Math.round(days * 86_400) * 1000));

/** Functions of words and dates that are computed here; what can't be computed is no number. */
export const WORD_FUNCTIONS: Readonly<Record<string, (...values: never[]) => unknown>> = {
  left: ofWords((word, count) => [...word].slice(0, whole(count, 1)).join('')),
  right: ofWords((word, count) => {
    const letters = [...word];
    return letters.slice(Math.max(0, letters.length - whole(count, 1))).join('');
  }),
  mid: ofWords((word, from, count) => {
    const first = whole(from, 1);
    return first < 1 ? '' : [...word].slice(first - 1, first - 1 + whole(count, 0)).join('');
  }),
  length: ofWords((word) => [...word].length),
  upper: ofWords((word) => word.toUpperCase()),
  lower: ofWords((word) => word.toLowerCase()),
  trim: ofWords((word) => word.trim().replace(/ +/g, ' ')),
  replace: ofWords((word, part, by) => (asWords(part!) ? word.replaceAll(asWords(part!), () => asWords(by!)) : word)),
  position: ofWords((part, word, from) => {
    const letters = [...asWords(word!)];
    const first = whole(from, 1);
    const at = letters
      .slice(first - 1)
      .join('')
      .indexOf(part);
    return first < 1 || at < 0
      ? NONE
      : first +
          [
            ...letters
              .slice(first - 1)
              .join('')
              .slice(0, at),
          ].length;
  }),
  concat: (...values: Value[]) => (values.some(isMissing) ? NONE : values.map(asWords).join('')),
  fixed: (value: Value, decimals: Value) =>
    typeof value !== 'number' || isMissing(value)
      ? NONE
      : rounded(value, whole(decimals, 0)).toFixed(Math.min(20, whole(decimals, 0))),
  number: (word: Value) => plainNumber(asWords(word).trim()),
  year: ofDate((date) => date.getUTCFullYear()),
  month: ofDate((date) => date.getUTCMonth() + 1),
  day: ofDate((date) => date.getUTCDate()),
  weekday: ofDate((date) => date.getUTCDay() || 7),
  hour: ofDate((date) => date.getUTCHours()),
  minute: ofDate((date) => date.getUTCMinutes()),
  date: (year: Value, month: Value, day: Value) => {
    // Months and days beyond their ends count on, as in a calendar.
    const at = new Date(0);
    at.setUTCFullYear(Number(year), Number(month) - 1, Number(day));
    return Number.isNaN(at.getTime()) ? NONE : daysOf(at.toISOString().slice(0, 10));
  },
  otherwise: (value: Value, other: Value) => (isMissing(value) ? other : value),
};

import { plainNumber } from '../../base/bytes/numbers';
import { AGGREGATES } from './aggregates';

/** A function of those rows of a table in which columns say what is wanted. */
interface WhereFunction {
  /** The function of columns that is taken of them; null where it is the first of them. */
  readonly by: string | null;
  /** Whether a column of values stands before the pairs of a column and what is wanted of it. */
  readonly hasValues: boolean;
  readonly example: string;
}

export const WHERE_FUNCTIONS: Readonly<Record<string, WhereFunction>> = {
  count_where: { by: 'count', hasValues: false, example: 'count_where(kind, "A")' },
  sum_where: { by: 'sum', hasValues: true, example: 'sum_where(cost, kind, "A")' },
  mean_where: { by: 'mean', hasValues: true, example: 'mean_where(cost, kind, "A")' },
  first_where: { by: null, hasValues: true, example: 'first_where(cost, kind, "A")' },
};

type Value = string | number;
const COMPARE: Readonly<Record<string, (a: Value, b: Value) => boolean>> = {
  '>=': (a, b) => a >= b,
  '<=': (a, b) => a <= b,
  '<>': (a, b) => a !== b,
  '>': (a, b) => a > b,
  '<': (a, b) => a < b,
};

/** What is wanted of a column, where it is no value but a comparison, as in `"> 5"`. */
export interface Comparison {
  readonly sign: string;
  readonly value: Value;
}
export function comparisonIn(wanted: string): Comparison | null {
  const [sign] = /^(?:>=|<=|<>|>|<)/.exec(wanted.trim()) ?? [];
  if (!sign) return null;
  const rest = wanted.trim().slice(sign.length).trim();
  const number = plainNumber(rest);
  return { sign, value: Number.isNaN(number) ? rest : number };
}

/** The values of a column as they are compared: words, or numbers. */
export type Compared = { readonly words: readonly string[] } | { readonly numbers: Float64Array };
const valueAt = (column: Compared, row: number): Value => ('words' in column ? column.words[row]! : column.numbers[row]!);
const isEmpty = (value: Value): boolean => value === '' || Number.isNaN(value);

/**
 * A function of the rows in which columns say what is wanted, as it is computed again and again.
 * @param values what is taken; null where rows are counted
 * @param keys columns that are compared; @param tests comparisons that always hold, null where a value is handed over
 * @returns takes the values of keys without a test; NaN where no row says so and nothing can be said of none
 */
export function whereFunction(
  { by }: WhereFunction,
  count: number,
  values: Compared | null,
  keys: readonly Compared[],
  tests: readonly (Comparison | null)[],
): (...wanted: unknown[]) => Value {
  const open = keys.filter((_, i) => !tests[i]);
  // Rows by what their compared columns say: each is looked at once.
  const rows = new Map<string, number[]>();
  for (let row = 0; row < count; row++) {
    const fits = keys.every((key, i) => {
      const test = tests[i];
      if (!test) return true;
      const value = valueAt(key, row);
      return !isEmpty(value) && typeof value === typeof test.value && COMPARE[test.sign]!(value, test.value);
    });
    if (!fits) continue;
    const said = JSON.stringify(open.map((key) => valueAt(key, row)));
    const list = rows.get(said);
    if (list) list.push(row);
    else rows.set(said, [row]);
  }
  const known = new Map<string, Value>();
  return (...wanted) => {
    const said = JSON.stringify(wanted.map((one) => (typeof one === 'boolean' ? Number(one) : one)));
    let value = known.get(said);
    if (value === undefined) {
      const found = rows.get(said) ?? [];
      if (!values) value = found.length;
      else if (by === null) value = found.length ? valueAt(values, found[0]!) : NaN;
      else if ('words' in values) value = NaN;
      else
        value = AGGREGATES[by]!.of(
          Float64Array.from(found, (row) => values.numbers[row]!),
          0,
        );
      known.set(said, value);
    }
    return value === '' ? NaN : value;
  };
}

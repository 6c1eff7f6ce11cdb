import type { ColumnType } from '../../document/tables/schema';
import { dateOf } from '../../evaluate/tables/dates';
import { numberInWords } from '../../evaluate/tables/values';

/** One column of what a copy says. */
export interface GridColumn {
  readonly name: string;
  /** Empty where nothing is said. */
  readonly unit: string;
  /** `untyped`: words of a format that does not say what they are. */
  readonly type: ColumnType | 'untyped';
  /** What untyped words of a master are; null in what was read. */
  readonly meant: ColumnType | null;
  /** Digits after the decimal mark that are shown; null where nothing is said. */
  readonly decimals: number | null;
  /** How it is computed, written in one way; null where it holds values. */
  readonly formula: string | null;
  /** Cells that are computed otherwise than their column, or not at all (empty). */
  readonly loose: Readonly<Record<number, string>>;
  /** Rows of a computed column in which nothing stands that anything could be computed by. */
  readonly bare?: ReadonlySet<number>;
  /** Numbers, dates (days since 1970-01-01), yes and no (1 and 0); NaN where a cell is empty or says something else. */
  readonly numbers: Float64Array | null;
  /** Words; null where there are none. */
  readonly words: readonly string[] | null;
  /** The master's column; empty in what was read. */
  readonly source: string;
}

export interface GridSummary {
  readonly name: string;
  readonly unit: string;
  readonly decimals: number | null;
  readonly formula: string | null;
  /** NaN where there is none. */
  readonly value: number;
  readonly source: string;
}

/** What a copy of a table says. */
export interface Grid {
  readonly columns: readonly GridColumn[];
  /** Rows. */
  readonly count: number;
  /** The column that tells rows apart, by its place; -1 where nothing is said. */
  readonly key: number;
  /** The format says which column tells rows apart, and counts every row: nothing of it is there or missing by habit. */
  readonly isStated?: true;
  readonly summaries: readonly GridSummary[];
  /** How untyped words write numbers. */
  readonly decimal: '.' | ',';
}

/** What a column says of itself where nothing is said. */
export const plainColumn = {
  meant: null,
  unit: '',
  decimals: null,
  formula: null,
  loose: {},
  numbers: null,
  words: null,
  source: '',
} as const;

/** Columns, heads and cells have numbers: row by row, the heading first, each begun by the row as a whole. */
export const entryOf = ({ columns }: Pick<Grid, 'columns'>, row: number, column: number): number =>
  (row + 1) * (columns.length + 1) + column + 1;
/** The row (-1: the heading) and the column (-1: the whole row) of such a number. */
export const placeOf = ({ columns }: Pick<Grid, 'columns'>, entry: number): { row: number; column: number } => ({
  row: Math.floor(entry / (columns.length + 1)) - 1,
  column: (entry % (columns.length + 1)) - 1,
});

/** What a cell says, in plain words; empty where it is empty. */
export function cellWords({ numbers, words, type, decimals }: GridColumn, row: number): string {
  const word = words?.[row];
  if (word) return word;
  const value = numbers?.[row] ?? NaN;
  if (Number.isNaN(value)) return '';
  if (type === 'date') return dateOf(value).replace('T', ' ');
  if (type === 'yes or no') return value ? 'yes' : 'no';
  return numberInWords(value, decimals ?? undefined);
}

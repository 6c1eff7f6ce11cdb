import { type Grid, type GridColumn, cellWords } from '../../content/grid/grid';
import type { NotUnderstood } from '../../contracts/not-understood';
import { settleFormulas } from './settle-formulas';
import { Failure } from '../../base/failure/failure';
import { idFrom } from '../../document/ids';
import { digest } from '../../base/bytes/hasher';
import { newMaster } from '../../document/new-master';
import type { Master } from '../../document/schema';
import { type Cell, type Column, type ColumnType, type Row, type Summary, type Table } from '../../document/tables/schema';
import { computeTable } from '../../evaluate/tables/compute';
import { dateOf } from '../../evaluate/tables/dates';
import { commonUnit, withoutAffix } from '../../evaluate/tables/affix';
import { PLAIN, type Writing, cellFrom, dateFrom, numberFrom, plainWords } from '../../evaluate/tables/typed';

/** Different words up to which a column of words is one of categories. */
const CATEGORIES = 24;
/** Rows from which on one can tell. */
const ENOUGH = 12;

/** So many of a column's cells must be of a kind for it to be a column of it; the others are marked, and nothing of them is lost. */
const MOSTLY = 0.7;

/** What kind of cells words are: numbers, dates where most are, yes or no where all are; else categories where few are told again and again. */
function typeOf(words: readonly string[], { decimal, dates }: Writing): ColumnType {
  const filled = words.filter((word) => word.trim());
  if (!filled.length) return 'text';
  // What begins with a zero is a name, not a number.
  const plain = (word: string) => !/^[+-]?0\d/.test(word.trim());
  const mostly = (passes: (word: string) => boolean): boolean => filled.filter(passes).length >= MOSTLY * filled.length;
  if (filled.every(plain) && mostly((word) => !Number.isNaN(numberFrom(word, decimal)))) return 'number';
  if (mostly((word) => dateFrom(word, dates) !== '')) return 'date';
  if (filled.every((word) => /^(yes|no|true|false)$/i.test(word.trim()))) return 'yes or no';
  return categoriesOr(filled);
}
function categoriesOr(filled: readonly string[]): ColumnType {
  const different = new Set(filled);
  return filled.length >= ENOUGH &&
    different.size <= CATEGORIES &&
    different.size <= filled.length / 3 &&
    filled.every((word) => word.length < 60)
    ? 'category'
    : 'text';
}

/** Digits after the decimal mark that words of numbers have in common; undefined where they have none of one length. */
function decimalsOf(words: readonly string[], decimal: '.' | ','): number | undefined {
  const lengths = new Set(words.filter(Boolean).map((word) => word.trim().split(decimal)[1]?.length ?? 0));
  const [one] = lengths;
  return lengths.size === 1 && one! > 0 && one! <= 15 ? one : undefined;
}

interface Read {
  readonly type: ColumnType;
  readonly decimals: number | undefined;
  /** What stands with every number of it, where its heading says no unit. */
  readonly unit?: string;
  readonly cell: (row: number) => Cell | undefined;
}

function readColumn(column: GridColumn, count: number, writing: Writing): Read {
  const { type, numbers, words, decimals } = column;
  if (type === 'untyped') {
    const stated = words ?? [];
    const unit = column.unit ? '' : commonUnit(stated);
    const bare = unit ? stated.map((word) => withoutAffix(word).number) : stated;
    // What is no number without its unit keeps it.
    const own = unit && typeOf(bare, writing) === 'number' ? bare : stated;
    const found = typeOf(own, writing);
    return {
      type: found,
      unit: own === stated ? '' : unit,
      decimals: found === 'number' ? decimalsOf(own, writing.decimal) : undefined,
      cell: (row) => cellFrom(own[row] ?? '', { type: found }, writing),
    };
  }
  const filled = type === 'text' ? (words ?? []).filter(Boolean) : [];
  const as = type === 'text' && filled.length ? categoriesOr(filled) : type;
  return {
    type: as,
    decimals: decimals ?? undefined,
    cell: (row) => {
      const value = numbers?.[row] ?? NaN;
      const word = words?.[row];
      if (word) return plainWords(word) || undefined;
      if (Number.isNaN(value)) return undefined;
      return type === 'date'
        ? dateOf(value)
        : type === 'yes or no'
          ? value === 1
          : type === 'number'
            ? value
            : cellWords(column, row);
    },
  };
}

/** The column that tells rows apart: the first of words or whole numbers in which no two cells are the same and none is empty. */
function keyOf(columns: readonly Column[], rows: readonly Row[]): string | undefined {
  if (!rows.length) return undefined;
  return columns.find(({ id, type, formula }) => {
    if (formula !== undefined || !['text', 'category', 'number'].includes(type)) return false;
    const seen = new Set<Cell>();
    for (const { cells } of rows) {
      const cell = cells[id];
      if (cell === undefined || seen.has(cell) || (typeof cell === 'number' && !Number.isInteger(cell))) return false;
      seen.add(cell);
    }
    return true;
  })?.id;
}

/** Computed columns of which a file holds no values: of the kind that their formulas give. */
function typedFormulas(table: Table, read: readonly GridColumn[]): Column[] {
  const unknown = table.columns.filter(
    ({ formula }, i) =>
      formula !== undefined && !read[i]!.words?.some(Boolean) && !read[i]!.numbers?.some((value) => !Number.isNaN(value)),
  );
  let { columns } = table;
  for (const { id } of unknown)
    for (const type of ['number', 'yes or no', 'text'] as const) {
      columns = columns.map((column) => (column.id === id ? { ...column, type } : column));
      const found = computeTable({ ...table, columns }).columns.find(({ column }) => column.id === id)!;
      if (found.problems.size < table.rows.length) break;
    }
  return columns;
}

function tableOf(id: string, name: string, { columns, count, summaries }: Grid, writing: Writing): Table {
  const ids = columns.map((_, i) => `${id}-c${i + 1}`);
  const read = columns.map((column) => readColumn(column, count, writing));
  const used = new Set<string>();
  const nameOf = (given: string, i: number): string => {
    const plain = plainWords(given).trim().slice(0, 180) || `Column ${i + 1}`;
    let free = plain;
    for (let k = 2; used.has(free); k++) free = `${plain} ${k}`;
    used.add(free);
    return free;
  };
  const made = columns.map(({ name: own, unit, formula }, i): Column => ({
    id: ids[i]!,
    name: nameOf(own, i),
    type: read[i]!.type,
    ...(unit || read[i]!.unit ? { unit: (unit || read[i]!.unit!).slice(0, 40) } : {}),
    ...(read[i]!.decimals === undefined ? {} : { decimals: read[i]!.decimals }),
    ...(formula === null ? {} : { formula }),
  }));
  const rows = Array.from({ length: count }, (_, row): Row => {
    const cells: Record<string, Cell> = {};
    read.forEach(({ cell }, i) => {
      if (columns[i]!.formula !== null) return;
      const value = cell(row);
      if (value !== undefined) cells[ids[i]!] = value;
    });
    return { id: `${id}-r${row + 1}`, cells };
  });
  const summed = summaries.flatMap((one, i): Summary[] =>
    one.formula === null
      ? []
      : [
          {
            id: `${id}-s${i + 1}`,
            name: one.name,
            formula: one.formula,
            ...(one.unit ? { unit: one.unit } : {}),
            ...(one.decimals === null ? {} : { decimals: one.decimals }),
          },
        ],
  );
  const typed = typedFormulas({ id, name, columns: made, rows, summaries: summed }, columns);
  const key = keyOf(typed, rows);
  return {
    id,
    name,
    ...(key ? { key } : {}),
    columns: typed,
    rows,
    summaries: summed,
  };
}

const plainName = (file: string): string => file.replace(/^.*[\\/]/, '').replace(/\.[^.]*$/, '');

/** As `settleFormulas` of each table that was read. */
export function settledGrids(grids: readonly { readonly name: string; readonly grid: Grid }[]): {
  readonly tables: readonly { readonly name: string; readonly grid: Grid }[];
  readonly told: readonly NotUnderstood[];
} {
  const settled = grids.map(({ name, grid }) => ({
    name,
    ...settleFormulas(grid, (one) => tableOf('table', name || 'Table', one, PLAIN)),
  }));
  return { tables: settled, told: settled.flatMap(({ told }) => told) };
}

/** Tables that were read as a new document: no board, and a table for each. @throws Failure `nothing-inside` */
export function gridsToMaster(
  grids: readonly { readonly name: string; readonly grid: Grid }[],
  bytes: Uint8Array,
  file: string,
  writing: Writing,
): Master {
  const filled = grids.filter(({ grid }) => grid.columns.length);
  if (!filled.length) throw new Failure('nothing-inside', `There is no table in “${file}”.`, { file });
  const title = (plainName(file) || 'Table').slice(0, 200);
  const empty = newMaster(idFrom(`brought in ${digest(bytes)}`), title, '', 'series');
  return {
    ...empty,
    boards: [],
    tables: filled.map(({ name, grid }, i) =>
      tableOf(`table-${i + 1}`, plainWords(name).trim().slice(0, 200) || title, grid, writing),
    ),
  };
}

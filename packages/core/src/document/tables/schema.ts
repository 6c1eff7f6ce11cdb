import * as z from 'zod';
import { Id } from '../schema-parts-base';

export const COLUMN_TYPES = ['number', 'text', 'date', 'category', 'yes or no'] as const;
export type ColumnType = (typeof COLUMN_TYPES)[number];

/** What stands in a cell: a number, words (of a date: ISO 8601), yes or no. An empty cell is not there. */
export type Cell = number | string | boolean;
export type Cells = Readonly<Record<string, Cell>>;

/** Longest words of a cell, as spreadsheets hold them (ECMA-376-1, 18.3.1.96). */
export const LONGEST_CELL = 32_767;
/** Rows and columns that a table may have. */
export const [MOST_ROWS, MOST_COLUMNS] = [1_000_000, 1000];

/** A hundred thousand rows are looked at here: one plain walk, no schema a cell. */
function isCells(value: unknown): value is Cells {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
  for (const id in value) {
    const cell = (value as Record<string, unknown>)[id];
    const fits =
      typeof cell === 'number'
        ? Number.isFinite(cell)
        : typeof cell === 'string'
          ? cell.length <= LONGEST_CELL && cell !== ''
          : typeof cell === 'boolean';
    if (!fits || id.length > 80) return false;
  }
  return true;
}
const CellsSchema = z.custom<Cells>(isCells, {
  message: `must hold finite numbers, words of at most ${LONGEST_CELL} letters, or yes and no`,
});

/** A row: its cells by the ids of their columns. */
export const Row = z.object({ id: Id, cells: CellsSchema });
export type Row = z.infer<typeof Row>;

const name = z.string().min(1).max(200);
const unit = z.string().max(40);
const decimals = z.number().int().min(0).max(15);
const formula = z.string().min(1).max(2000);

/** Patches name a cell by its row and, after a dot, its column. */
const ColumnId = Id.refine((id) => !id.includes('.'), 'must have no dot');

export const Column = z.object({
  id: ColumnId,
  name,
  type: z.enum(COLUMN_TYPES),
  unit: unit.optional(),
  /** Digits after the decimal mark that are shown; as many as there are where nothing is said. */
  decimals: decimals.optional(),
  /** How it is computed, from the names of columns and summaries; then its rows hold no cells of it. */
  formula: formula.optional(),
});
export type Column = z.infer<typeof Column>;

/** One value that is computed of whole columns: a mean, a largest value. */
export const Summary = z.object({ id: Id, name, formula, unit: unit.optional(), decimals: decimals.optional() });
export type Summary = z.infer<typeof Summary>;

/** Typed columns and rows of them, free of boards. */
export const Table = z.object({
  id: Id,
  name,
  /** The column that tells rows apart. */
  key: Id.optional(),
  columns: z.array(Column).max(MOST_COLUMNS),
  rows: z.array(Row).max(MOST_ROWS),
  summaries: z.array(Summary).max(1000),
});
export type Table = z.infer<typeof Table>;

import { type Grid, type GridColumn, cellWords } from '../../content/grid/grid';
import type { NotUnderstood } from '../../contracts/not-understood';
import type { Column, Table } from '../../document/tables/schema';
import { type ColumnValues, computeTable } from '../../evaluate/tables/compute';

interface Settled {
  readonly grid: Grid;
  readonly told: readonly NotUnderstood[];
}

/** How far what is computed may be off what a file shows, as a share: programs add up in other orders. */
const NEAR = 1e-9;

/** Whether a file shows any value of a column: some programs write formulas alone. */
const showsAny = ({ words, numbers }: GridColumn): boolean =>
  (words?.some(Boolean) ?? false) || (numbers?.some((value) => !Number.isNaN(value)) ?? false);

/** Whether what a formula comes to is what the file shows, in every row in which it shows something. */
function agrees(shown: GridColumn, { column, numbers, words, problem, problems }: ColumnValues, count: number): boolean {
  if (problem) return false;
  for (let row = 0; row < count; row++) {
    const value = shown.numbers?.[row] ?? NaN;
    const word = shown.words?.[row] ?? '';
    if (Number.isNaN(value) && !word) continue;
    if (problems.has(row)) return false;
    const isWords = column.type === 'text' || column.type === 'category';
    if (isWords ? (words?.[row] ?? '') !== (word || cellWords(shown, row)) : !isNear(numbers[row]!, value)) return false;
  }
  return true;
}
const isNear = (a: number, b: number): boolean => Math.abs(a - b) <= NEAR * Math.max(1, Math.abs(a), Math.abs(b));

/** A formula as a person knows it: the first function in it, or all of it. */
function calledBy(formula: string): string {
  const name = /([A-Z][A-Z0-9.]*)\(/.exec(formula)?.[1];
  return name ? `${name}(…)` : formula.slice(0, 60);
}

/**
 * Formulas of a file that comes in, each kept only where it computes what the file shows: of any other the shown values are kept,
 * and it is told. A formula of single cells, of which the column has none, goes the same way.
 * @param tableOf makes a table of a grid
 */
export function settleFormulas(grid: Grid, tableOf: (grid: Grid) => Table): Settled {
  const told = new Map<string, number>();
  const drop = (column: GridColumn, formula: string): GridColumn => {
    const kind = `formula kept as the values that it showed: ${calledBy(formula)}`;
    told.set(kind, (told.get(kind) ?? 0) + 1);
    return { ...column, formula: null, loose: {} };
  };
  let columns = grid.columns.map((column) => {
    const [loose] = Object.values(column.loose).filter(Boolean);
    return column.formula === null && loose !== undefined ? drop(column, loose) : column;
  });
  for (;;) {
    if (columns.every(({ formula }) => formula === null)) break;
    const table = tableOf({ ...grid, columns });
    const computed = computeTable(table).columns;
    // What is wrong in one makes those wrong that use it: the first goes, and all are computed again.
    const wrong = columns.findIndex(
      (column, i) =>
        column.formula !== null && showsAny(column) && !agrees(column, valuesOf(computed, table.columns[i]!), grid.count),
    );
    if (wrong < 0) break;
    columns = columns.map((column, i) => (i === wrong ? drop(column, column.formula!) : column));
  }
  const notes = [...told].map(([kind, count]): NotUnderstood => ({ kind, count, shows: true }));
  return { grid: { ...grid, columns }, told: notes };
}

const valuesOf = (computed: readonly ColumnValues[], { id }: Column): ColumnValues =>
  computed.find(({ column }) => column.id === id)!;

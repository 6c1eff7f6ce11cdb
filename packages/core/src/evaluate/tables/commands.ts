import type { Command } from '../../document/commands';
import type { Patch } from '../../document/patch-schema';
import type { Cell, Column, Row, Summary, Table } from '../../document/tables/schema';
import { cellSaid, rowInWords } from '../../document/tables/words';
import { renamed } from './formula';
import { namesIn } from './names';
import { cellFrom } from './typed';

const set = (node: string, attribute: string, value: unknown): Patch => ({ op: 'set', node, attribute, value });
const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;
const said = cellSaid;

/** A cell that is to say something else. */
export interface CellChange {
  readonly row: number;
  readonly column: number;
  readonly cell: Cell | undefined;
}

/** Changes cells in one step; computed ones stay as they are computed. */
export function setCells(table: Table, changes: readonly CellChange[]): Command {
  const free = changes.filter(({ row, column, cell }) => {
    const at = table.columns[column];
    return at && at.formula === undefined && table.rows[row] && table.rows[row].cells[at.id] !== cell;
  });
  const patches = free.map(({ row, column, cell }) => set(table.rows[row]!.id, `cells.${table.columns[column]!.id}`, cell));
  const [first] = free;
  const label =
    free.length === 1
      ? `${table.name}, ${rowInWords(table, first!.row)}: ${table.columns[first!.column]!.name} now ${said(first!.cell)}`
      : `${table.name}: ${counted(free.length, 'cell')} changed`;
  return { label, patches };
}

/** Ids that no node of a list has. */
function freshIds(taken: Iterable<string>, stem: string, count: number): string[] {
  const used = new Set(taken);
  const ids: string[] = [];
  for (let i = used.size + 1; ids.length < count; i++) if (!used.has(`${stem}${i}`)) ids.push(`${stem}${i}`);
  return ids;
}
const rowStem = (table: Table): string => `${table.id}-r`;

/** Rows with these cells, after the row at `at` (-1: before all). */
export function addRows(table: Table, at: number, cells: readonly Row['cells'][]): Command {
  const ids = freshIds(
    table.rows.map(({ id }) => id),
    rowStem(table),
    cells.length,
  );
  let after = table.rows[at]?.id ?? null;
  const patches = cells.map((one, i): Patch => {
    const patch: Patch = { op: 'insert', parent: table.id, list: 'rows', after, node: { id: ids[i]!, cells: one } };
    after = ids[i]!;
    return patch;
  });
  return { label: `${table.name}: ${counted(cells.length, 'row')} added`, patches };
}

export const removeRows = (table: Table, at: readonly number[]): Command => ({
  label:
    at.length === 1
      ? `${table.name}, ${rowInWords(table, at[0]!)}: row removed`
      : `${table.name}: ${counted(at.length, 'row')} removed`,
  patches: at.map((i): Patch => ({ op: 'remove', parent: table.id, list: 'rows', node: table.rows[i]!.id })),
});

/**
 * What was pasted, from a cell on to the right and downwards: rows that are missing are added, computed columns are passed over.
 * @param texts rows of words, as a clipboard holds them
 */
export function pasteInto(table: Table, row: number, column: number, texts: readonly (readonly string[])[]): Command {
  const columns = table.columns.slice(column);
  const changes: CellChange[] = [];
  const added: Row['cells'][] = [];
  texts.forEach((line, i) => {
    const cells: Record<string, Cell> = {};
    columns.slice(0, line.length).forEach((one, j) => {
      if (one.formula !== undefined) return;
      const cell = cellFrom(line[j]!, one);
      if (row + i < table.rows.length) changes.push({ row: row + i, column: column + j, cell });
      else if (cell !== undefined) cells[one.id] = cell;
    });
    if (row + i >= table.rows.length) added.push(cells);
  });
  const { patches } = setCells(table, changes);
  const more = added.length ? addRows(table, table.rows.length - 1, added).patches : [];
  const words = [patches.length ? counted(patches.length, 'cell') : '', added.length ? counted(added.length, 'row') : ''].filter(
    Boolean,
  );
  return { label: `${table.name}: pasted ${words.join(' and ') || 'nothing new'}`, patches: [...patches, ...more] };
}

/**
 * Fills a range downwards from its first row; two numbers or dates at its top go on in their step.
 * @param rows first and last, @param columns first and last, of the range
 */
export function fillDown(
  table: Table,
  [top, bottom]: readonly [number, number],
  [left, right]: readonly [number, number],
): Command {
  const changes: CellChange[] = [];
  for (let column = left; column <= right; column++) {
    const { id, type } = table.columns[column]!;
    const cell = (row: number) => table.rows[row]?.cells[id];
    const [first, second] = [cell(top), cell(top + 1)];
    const goesOn = type === 'number' && typeof first === 'number' && typeof second === 'number' && bottom > top + 1;
    const step = goesOn ? second - first : 0;
    for (let row = goesOn ? top + 2 : top + 1; row <= bottom; row++)
      changes.push({ row, column, cell: goesOn ? Number((first + step * (row - top)).toPrecision(12)) : first });
  }
  return { ...setCells(table, changes), label: `${table.name}: filled down ${counted(bottom - top, 'row')}` };
}

/** An empty column after the one at `at`. */
export function addColumn(table: Table, at: number, column: Omit<Column, 'id'>): Command {
  const [id] = freshIds(
    table.columns.map((one) => one.id),
    `${table.id}-c`,
    1,
  );
  return {
    label: `${table.name}: column “${column.name}” added`,
    patches: [{ op: 'insert', parent: table.id, list: 'columns', after: table.columns[at]?.id ?? null, node: { id, ...column } }],
  };
}

/** Takes a column away, with what stands in its cells. */
export function removeColumn(table: Table, at: number): Command {
  const column = table.columns[at]!;
  const cells = table.rows
    .filter(({ cells }) => cells[column.id] !== undefined)
    .map(({ id }) => set(id, `cells.${column.id}`, undefined));
  const key = table.key === column.id ? [set(table.id, 'key', undefined)] : [];
  return {
    label: `${table.name}: column “${column.name}” removed`,
    patches: [...cells, ...key, { op: 'remove', parent: table.id, list: 'columns', node: column.id }],
  };
}

export function addSummary(table: Table, summary: Omit<Summary, 'id'>): Command {
  const [id] = freshIds(
    table.summaries.map((one) => one.id),
    `${table.id}-s`,
    1,
  );
  return {
    label: `${table.name}: ${summary.name} added`,
    patches: [
      { op: 'insert', parent: table.id, list: 'summaries', after: table.summaries.at(-1)?.id ?? null, node: { id, ...summary } },
    ],
  };
}

export const removeSummary = (table: Table, { id, name }: Summary): Command => ({
  label: `${table.name}: ${name} removed`,
  patches: [{ op: 'remove', parent: table.id, list: 'summaries', node: id }],
});

/** Gives a column or a summary another name; formulas that name it go along. */
export function renameIn(table: Table, id: string, name: string): Command {
  const before = namesIn(table);
  const change = <N extends Column | Summary>(one: N): N => (one.id === id ? { ...one, name } : one);
  const after = namesIn({ columns: table.columns.map(change), summaries: table.summaries.map(change) });
  const moved = new Map<string, string>();
  for (const [node, word] of before.of) if (after.of.get(node) !== word) moved.set(word, after.of.get(node)!);
  const formulas = [...table.columns, ...table.summaries].flatMap((one): Patch[] => {
    if (one.formula === undefined) return [];
    const next = renamed(one.formula, moved);
    return next === one.formula ? [] : [set(one.id, 'formula', next)];
  });
  const old = [...table.columns, ...table.summaries].find((one) => one.id === id)?.name ?? id;
  return { label: `${table.name}: “${old}” is called “${name}” now`, patches: [set(id, 'name', name), ...formulas] };
}

/** Sets what a column or a summary says of itself; its cells are read anew where its kind changes. */
export function setColumn(table: Table, id: string, change: Partial<Omit<Column, 'id' | 'name'>>): Command {
  const column = table.columns.find((one) => one.id === id);
  const name = [...table.columns, ...table.summaries].find((one) => one.id === id)?.name ?? id;
  const patches = Object.entries(change).map(([attribute, value]) => set(id, attribute, value === '' ? undefined : value));
  const { type, formula } = change;
  const cells: Patch[] = [];
  if (column && (formula || (type && type !== column.type)))
    for (const row of table.rows) {
      const cell = row.cells[id];
      const next =
        formula || cell === undefined
          ? undefined
          : cellFrom(said(cell) && (typeof cell === 'boolean' ? said(cell) : String(cell)), { type: type! });
      if (next !== cell) cells.push(set(row.id, `cells.${id}`, next));
    }
  const words: Readonly<Record<string, string>> = {
    type: 'kind',
    unit: 'unit',
    decimals: 'digits shown',
    formula: 'how it is computed',
  };
  const what = Object.entries(change).map(
    ([attribute, value]) => `${words[attribute]} now ${value === undefined || value === '' ? 'none' : String(value)}`,
  );
  return { label: `${table.name}, ${name}: ${what.join(', ')}`, patches: [...patches, ...cells] };
}

/** The column that tells rows apart. */
export const setKey = (table: Table, column: Column | null): Command => ({
  label: column ? `${table.name}: rows are told apart by “${column.name}”` : `${table.name}: rows are told apart by their place`,
  patches: [set(table.id, 'key', column?.id)],
});

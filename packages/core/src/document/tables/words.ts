import type { Master, Node } from '../schema';
import { nodeInWords } from '../tree';
import type { Cell, Row, Table } from './schema';

export const cellSaid = (cell: Cell | undefined): string =>
  cell === undefined ? 'empty' : cell === true ? 'yes' : cell === false ? 'no' : String(cell).slice(0, 60);

/** What a person would call a row: what its key says, or its number. Nothing is computed for a name: a computed key names no row. */
export function rowInWords(table: Pick<Table, 'key' | 'rows'>, at: number): string {
  const cell = table.key === undefined ? undefined : table.rows[at]?.cells[table.key];
  return cell === undefined || cell === '' ? `row ${at + 1}` : cellSaid(cell);
}

const isRow = (node: Node): node is Row => 'cells' in node;
function tableOf(master: Master, row: Row): { table: Table; at: number } | null {
  for (const table of master.tables ?? []) {
    const at = table.rows.findIndex(({ id }) => id === row.id);
    if (at >= 0) return { table, at };
  }
  return null;
}

/** What a person would call a node of this master; a row by its table and its key. */
export function nodeOfMaster(master: Master, node: Node): string {
  const found = isRow(node) ? tableOf(master, node) : null;
  return found ? `${found.table.name}, ${rowInWords(found.table, found.at)}` : nodeInWords(node);
}

/** The name of the column that an attribute of a row is a cell of; undefined where it is none. */
export function columnOfCell(master: Master, node: Node, attribute: string): string | undefined {
  const found = isRow(node) && attribute.startsWith('cells.') ? tableOf(master, node) : null;
  return found?.table.columns.find(({ id }) => `cells.${id}` === attribute)?.name;
}

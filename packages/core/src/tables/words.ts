import type { Master, Node, Row } from '../master/schema';
import { nodeInWords } from '../master/tree';
import { rowInWords } from './commands';

const isRow = (node: Node): node is Row => 'cells' in node;

/** What a person would call a node of this master; a row by its table and its key. */
export function nodeOfMaster(master: Master, node: Node): string {
  if (!isRow(node)) return nodeInWords(node);
  for (const table of master.tables ?? []) {
    const at = table.rows.findIndex(({ id }) => id === node.id);
    if (at >= 0) return `${table.name}, ${rowInWords(table, at)}`;
  }
  return nodeInWords(node);
}

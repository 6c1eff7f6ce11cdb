import { FONTS, type Item, type Master, cellInWords, computedTable } from '@inkwell-twin/core';

/** Columns and rows that are enough to recognise a table by. */
const [COLUMNS, ROWS] = [4, 8];
const [WIDTH, HEIGHT] = [120, 76];

/** A board for a master without any: the first rows of its first table, to be recognised by. */
export function boardOfTable(master: Master): Master {
  const table = master.tables?.[0];
  if (!table) return master;
  const shown = computedTable(table).columns.slice(0, COLUMNS);
  const items: Item[] = [];
  const say = (words: string, column: number, y: number, fill: string) => {
    const text = words.slice(0, 14);
    if (!text) return;
    const style = { fill, stroke: null, strokeWidth: 0 };
    const place = { x: 4 + (WIDTH / COLUMNS - 1) * column, y, size: 4 };
    items.push({
      kind: 'text',
      id: `word-${items.length}`,
      layer: master.layers[0]!.id,
      style,
      text,
      ...place,
      font: FONTS[0],
      align: 'start',
    });
  };
  shown.forEach(({ column }, i) => say(column.name, i, HEIGHT - 8, '#14213a'));
  for (let row = 0; row < Math.min(ROWS, table.rows.length); row++)
    shown.forEach((values, i) => say(cellInWords(values, row), i, HEIGHT - 16 - 7.6 * row, '#46546d'));
  return { ...master, boards: [{ id: 'rows', name: 'Rows', width: WIDTH, height: HEIGHT, background: '#ffffff', items }] };
}

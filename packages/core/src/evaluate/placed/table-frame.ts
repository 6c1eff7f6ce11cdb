import { measureBy } from '../fonts/font-book';
import type { TableFrame } from '../../document/items/kinds/table-frame';
import type { Item, Master, PlacedItem } from '../../document/schema';
import { cellInWords, computedTable } from '../tables/compute';
import { inHeading } from '../tables/heading';
import type { Services } from '../../contracts/services';
import { Pen } from './draw';

const [WORDS, HEADING] = ['Work Sans', 'Work Sans Bold'] as const;
/** Of a row, and of the room beside words, in letters. */
const [ROW, BESIDE] = [1.75, 0.5];

/** The rows of a table that there is room for. */
export function makeTableFrame(item: PlacedItem, master: Master, { fonts }: Pick<Services, 'fonts'>): Item[] {
  const { id, table, x, y, width, height, size } = item as TableFrame;
  const { columns, table: own } = computedTable(master.tables!.find((one) => one.id === table)!);
  const measure = measureBy(fonts);
  const pen = new Pen(id);
  if (!columns.length) return [];
  const most = Math.max(0, Math.floor(height / (size * ROW)) - 1);
  const count = Math.min(own.rows.length, most);
  const words = columns.map((one) => Array.from({ length: count }, (_, row) => cellInWords(one, row)));
  const heads = columns.map(({ column }) => inHeading(column.name, column.unit ?? ''));
  const wide = columns.map((_, c) =>
    words[c]!.reduce((far, cell) => Math.max(far, measure(WORDS, cell)), measure(HEADING, heads[c]!)),
  );
  const sum = wide.reduce((all, one) => all + one + 2 * BESIDE, 0) * size;
  const letters = size * Math.min(1, width / sum);
  const row = letters * ROW;
  let left = x;
  const top = y + height;
  const base = (r: number) => top - r * row - 0.62 * row;
  columns.forEach(({ column }, c) => {
    const span = (wide[c]! + 2 * BESIDE) * letters;
    const number = column.type === 'number';
    const [at, align] = number
      ? ([left + span - BESIDE * letters, 'end'] as const)
      : ([left + BESIDE * letters, 'start'] as const);
    pen.text(heads[c]!, [at, base(0)], letters, HEADING, align);
    words[c]!.forEach((cell, r) => pen.text(cell, [at, base(r + 1)], letters, WORDS, align));
    left += span;
  });
  for (let r = 0; r <= count; r++) {
    const down = top - (r + 1) * row;
    pen.line(
      [
        [x, down],
        [left, down],
      ],
      r ? 0.1 : 0.3,
    );
  }
  return pen.items;
}

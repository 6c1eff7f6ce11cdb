import { type ColumnValues, cellInWords } from '@inkwell-twin/core/tables';

type Span = readonly [first: number, last: number];

/** Cells as spreadsheets take them from a clipboard: tabs between them, quotes around what has a tab or an end of a line in it. */
export function clipboardOf(columns: readonly ColumnValues[], rows: Span, across: Span): string {
  const lines: string[] = [];
  for (let row = rows[0]; row <= rows[1]; row++) {
    const cells = columns.slice(across[0], across[1] + 1).map((values) => {
      const number = values.numbers[row]!;
      // Numbers with all their digits: what is shown may be rounded.
      const isNumber = values.column.type === 'number' && !Number.isNaN(number) && !values.words?.[row];
      return isNumber ? String(number) : cellInWords(values, row);
    });
    lines.push(cells.map((cell) => (/[\t\n"]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)).join('\t'));
  }
  return lines.join('\n');
}

/** Cells as a clipboard holds them: tabs between cells, quotes around what has one or an end of a line in it. */
export function cellsOfClipboard(text: string): string[][] {
  const rows: string[][] = [[]];
  const pattern = /(?:^|\t|\r?\n)(?:"((?:[^"]|"")*)"(?=\t|\r?\n|$)|([^\t\r\n]*))/g;
  for (const found of text.replace(/\r?\n$/, '').matchAll(pattern)) {
    if (/^\r?\n/.test(found[0]) && found.index > 0) rows.push([]);
    rows.at(-1)!.push(found[1] === undefined ? found[2]! : found[1].replaceAll('""', '"'));
  }
  return rows;
}

import type { Tally } from '../../contracts/tally';
import type { ProseBlock, ProseSpan } from '../../content/prose/prose';

/** Paragraphs of a cell as the words of one, each in a line of its own; what is no words is told. */
export function wordsOfCell(blocks: readonly ProseBlock[], tally: Tally): ProseSpan[] {
  const spans: ProseSpan[] = [];
  for (const block of blocks) {
    if (block.block === 'table') {
      // A line for each of its rows: words are kept, and what stood beside what.
      tally.add('table in a cell, as lines of words');
      for (const row of block.grid) {
        if (spans.length) spans.push({ text: '\n', marks: [], link: '', note: null });
        row.forEach((cell, i) => spans.push(...(i ? [{ text: ' | ', marks: [], link: '', note: null }] : []), ...cell));
      }
      continue;
    }
    if (block.block !== 'words') {
      tally.add(`${block.block} in a cell`);
      continue;
    }
    if (spans.length) spans.push({ text: '\n', marks: [], link: '', note: null });
    spans.push(...block.spans);
  }
  return spans;
}

/** A table of the rows that a file has, filled up to the widest; none where nothing has a cell. The first row says whether it heads it. */
export function tableOfRows(rows: readonly { readonly cells: ProseSpan[][]; readonly head: boolean }[]): ProseBlock[] {
  const wide = rows.reduce((most, { cells }) => Math.max(most, cells.length), 0);
  if (!wide) return [];
  const grid = rows.map(({ cells }) => [...cells, ...Array.from({ length: wide - cells.length }, (): ProseSpan[] => [])]);
  return [{ block: 'table', head: rows[0]!.head, caption: [], grid, source: '' }];
}

import type { Tally } from '../../contracts/tally';
import type { ProseBlock, ProseSpan } from '../../content/prose/prose';

/** Paragraphs of a cell as the words of one, each in a line of its own; what is no words is told. */
export function wordsOfCell(blocks: readonly ProseBlock[], tally: Tally): ProseSpan[] {
  const spans: ProseSpan[] = [];
  for (const block of blocks) {
    if (block.block !== 'words') {
      tally.add(`${block.block} in a cell`);
      continue;
    }
    if (spans.length) spans.push({ text: '\n', marks: [], link: '', note: null });
    spans.push(...block.spans);
  }
  return spans;
}

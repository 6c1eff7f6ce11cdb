import type { Sketch } from '../../base/bytes/sketch';
import type { ProseBody, ProseSpan } from './prose';

/** Words in a row that make a piece. */
const RUN = 4;

const wordsOf = (spans: readonly ProseSpan[]): string =>
  spans.map(({ text, note }) => (note ? ` ${wordsOf(note)} ` : text)).join('');

/** Every four words that follow each other, and cells of tables. */
export function sampleProse({ blocks }: ProseBody, into: Sketch): void {
  for (const block of blocks) {
    if (block.block === 'words') {
      const words = wordsOf(block.spans).split(/\s+/).filter(Boolean);
      for (let i = 0; i < Math.max(1, words.length - RUN + 1); i++) into.add(words.slice(i, i + RUN).join(' '));
    }
    if (block.block === 'table') for (const row of block.grid) for (const cell of row) into.add(wordsOf(cell));
    if (block.block === 'picture') into.add(block.picture);
  }
}

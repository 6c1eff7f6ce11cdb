import type { Hasher } from '../../base/bytes/hasher';
import type { ProseBlock, ProseBody, ProseSpan } from './prose';

const spansKey = (spans: readonly ProseSpan[]): unknown =>
  spans.map(({ text, marks, link, note }) => (note ? [spansKey(note)] : [text, marks.join(' '), link]));

/** All that a block says, in one way. Sizes are told to a tenth of a millimetre. */
export function blockKey(block: ProseBlock): unknown {
  switch (block.block) {
    case 'words':
      return [block.role, block.level, block.start, block.align, spansKey(block.spans)];
    case 'table':
      return [block.head, spansKey(block.caption), block.grid.map((row) => row.map(spansKey))];
    case 'picture':
      return [block.picture, block.alt, Math.round(block.width * 10), spansKey(block.caption)];
    case 'break':
      return [block.of];
  }
}

/** Puts what a text says into a hash. */
export function digestProse({ language, blocks }: ProseBody, into: Hasher): void {
  into.update(JSON.stringify([language, blocks.map((block) => [block.block, blockKey(block)])]));
}

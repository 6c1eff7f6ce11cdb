import { ListCounter, isItem } from '../../evaluate/texts/lists';
import type { ProseBlock, ProseWords } from './prose';
import { tidySpans } from './tidy';

/**
 * Blocks as they are written in one way only: words tidy, paragraphs without a word left away, items no deeper than one below the one
 * before, beginnings of lists only where they say something.
 */
export function tidyBlocks(blocks: readonly ProseBlock[]): ProseBlock[] {
  const counter = new ListCounter();
  const out: ProseBlock[] = [];
  let deepest = -1;
  for (const block of blocks) {
    if (block.block !== 'words') {
      counter.end();
      deepest = -1;
      out.push(tidyOther(block));
      continue;
    }
    const spans = tidySpans(block.spans);
    if (!spans.length) continue;
    const item = isItem(block);
    if (!item || (block.role === 'continued' && deepest < 0)) {
      counter.end();
      deepest = -1;
      out.push({ ...block, role: item ? 'body' : block.role, level: 0, start: null, spans });
      continue;
    }
    const level = Math.min(block.level, deepest + (block.role === 'continued' ? 0 : 1));
    const start = block.role === 'numbered' && block.start !== null && block.start !== counter.would(level) ? block.start : null;
    const tidy: ProseWords = { ...block, level, start, spans };
    counter.next(tidy);
    deepest = level;
    out.push(tidy);
  }
  return out;
}

function tidyOther(block: Exclude<ProseBlock, ProseWords>): ProseBlock {
  if (block.block === 'table')
    return { ...block, caption: tidySpans(block.caption), grid: block.grid.map((row) => row.map(tidySpans)) };
  if (block.block === 'picture')
    return { ...block, alt: block.alt.replace(/\s+/g, ' ').trim(), caption: tidySpans(block.caption) };
  return block;
}

import { ListCounter, isItem } from '../../evaluate/texts/lists';
import type { ProseBlock, ProseWords } from './prose';
import { normaliseSpans } from './normalise';

/**
 * Blocks as they are written in one way only: words normalised, paragraphs without a word left away, items no deeper than one below the one
 * before, beginnings of lists only where they say something.
 */
export function normaliseBlocks(blocks: readonly ProseBlock[]): ProseBlock[] {
  const counter = new ListCounter();
  const out: ProseBlock[] = [];
  let deepest = -1;
  for (const block of blocks) {
    if (block.block !== 'words') {
      counter.end();
      deepest = -1;
      out.push(normaliseOther(block));
      continue;
    }
    const spans = normaliseSpans(block.spans);
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
    const plain: ProseWords = { ...block, level, start, spans };
    counter.next(plain);
    deepest = level;
    out.push(plain);
  }
  return out;
}

function normaliseOther(block: Exclude<ProseBlock, ProseWords>): ProseBlock {
  if (block.block === 'table')
    return { ...block, caption: normaliseSpans(block.caption), grid: block.grid.map((row) => row.map(normaliseSpans)) };
  if (block.block === 'picture')
    return { ...block, alt: block.alt.replace(/\s+/g, ' ').trim(), caption: normaliseSpans(block.caption) };
  return block;
}

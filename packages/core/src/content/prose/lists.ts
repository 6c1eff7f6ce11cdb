import { ITEMS, type Role } from '../../master/texts/schema';
import { tidySpans } from './tidy';
import type { ProseBlock, ProseWords } from './prose';

interface Listed {
  readonly role: Role;
  readonly level?: number | undefined;
  readonly start?: number | null | undefined;
}
export const isItem = (block: { readonly block: string; readonly role?: Role }): boolean =>
  block.block === 'words' && (ITEMS as readonly string[]).includes(block.role!);

/** Counts the items of lists, level by level; what is no item ends them all. */
export class ListCounter {
  private readonly counts: (number | null)[] = [];

  /** The number of a numbered item; null of all others. */
  next({ role, level = 0, start }: Listed): number | null {
    if (role === 'continued') {
      this.counts.length = Math.min(this.counts.length, level + 1);
      return null;
    }
    this.counts.length = Math.min(this.counts.length, level + 1);
    while (this.counts.length <= level) this.counts.push(null);
    if (role === 'bullet') {
      this.counts[level] = null;
      return null;
    }
    const number = start ?? (this.counts[level] ?? 0) + 1;
    this.counts[level] = number;
    return number;
  }

  /** What a numbered item would be numbered by itself. */
  would(level: number): number {
    return level < this.counts.length ? (this.counts[level] ?? 0) + 1 : 1;
  }

  end(): void {
    this.counts.length = 0;
  }
}

/** Numbers of the numbered items of a text, block by block; null of all others. */
export function numbersOf(blocks: readonly ({ readonly block: string } & Partial<Listed>)[]): (number | null)[] {
  const counter = new ListCounter();
  return blocks.map((block) => {
    if (isItem(block)) return counter.next(block as Listed);
    counter.end();
    return null;
  });
}

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

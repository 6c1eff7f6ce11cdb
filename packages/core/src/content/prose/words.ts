import { NOTE_SIGN } from '../../document/texts/words';
import type { ProseBlock, ProseSpan } from './prose';

/** The words of stretches, a note as one sign. */
export function textOf(spans: readonly ProseSpan[]): string {
  let text = '';
  for (const span of spans) text += span.note ? NOTE_SIGN : span.text;
  return text;
}

/** The notes of stretches, in order. */
export const notesOf = (spans: readonly ProseSpan[]): (readonly ProseSpan[])[] =>
  spans.flatMap(({ note }) => (note ? [note] : []));

/** The words of a whole block, cells apart. */
export function wordsOfBlock(block: ProseBlock): string {
  if (block.block === 'words') return textOf(block.spans);
  if (block.block === 'table') return [textOf(block.caption), ...block.grid.map((row) => row.map(textOf).join('\t'))].join('\n');
  if (block.block === 'picture') return textOf(block.caption) || block.alt;
  return '';
}

/** Words, numbers such as 16:45 and 1,200.5, blanks, and signs between them, one by one: what is compared within a paragraph. */
export const tokensOf = (text: string): string[] =>
  text.match(/\p{N}+(?:[.,:/]\p{N}+)+|[\p{L}\p{N}\p{M}_]+(?:['’]\p{L}+)*|\s|[^\p{L}\p{N}\p{M}_\s]/gu) ?? [];

/** Words of a text, without signs. */
export const countWords = (text: string): number => text.match(/[\p{L}\p{N}][\p{L}\p{N}\p{M}_'’.-]*/gu)?.length ?? 0;

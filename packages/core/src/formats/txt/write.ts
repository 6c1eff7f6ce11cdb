import type { ProseBody } from '../../content/prose/prose';
import { wordsOfBlock } from '../../content/prose/words';
import type { Options } from '../../contracts/declaration';

/** A paragraph as lines no longer than a width; a word that is longer stands out. */
function broken(text: string, width: number): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of text.split(' ')) {
    if (line && line.length + 1 + word.length > width) {
      lines.push(line);
      line = word;
    } else line = line ? `${line} ${word}` : word;
  }
  return [...lines, line];
}

/** A text as its words, an empty line between paragraphs. */
export function writeTxt({ blocks }: ProseBody, { lines, width, ends, bom }: Options): Uint8Array {
  const paragraphs = blocks.map((block) => {
    const text = wordsOfBlock(block);
    return lines === 'broken' ? broken(text, Number(width)).join('\n') : text;
  });
  const text = `${paragraphs.join('\n\n')}\n`;
  return new TextEncoder().encode(`${bom ? '\uFEFF' : ''}${ends === 'CR LF' ? text.replaceAll('\n', '\r\n') : text}`);
}

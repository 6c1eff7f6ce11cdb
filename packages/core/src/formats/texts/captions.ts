import type { ProseBlock } from '../../content/prose/prose';

/** What a caption says that it belongs to, by the name of its style. */
export type CaptionOf = 'table' | 'any';

/** Gives captions that stand as paragraphs to what they belong to: the picture above, or the table below or above. */
export function withCaptions(blocks: readonly ProseBlock[], captions: ReadonlyMap<ProseBlock, CaptionOf>): ProseBlock[] {
  const out: ProseBlock[] = [];
  for (let i = 0; i < blocks.length; i++) {
    const block = blocks[i]!;
    const of = captions.get(block);
    const last = out.at(-1);
    const next = blocks[i + 1];
    if (block.block !== 'words' || !of) out.push(block);
    else if (of !== 'table' && last?.block === 'picture' && !last.caption.length)
      out[out.length - 1] = { ...last, caption: block.spans };
    else if (next?.block === 'table') {
      out.push({ ...next, caption: block.spans });
      i++;
    } else if (last?.block === 'table' && !last.caption.length) out[out.length - 1] = { ...last, caption: block.spans };
    else out.push(block);
  }
  return out;
}

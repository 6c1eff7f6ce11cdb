import type { ProseBlock } from '../../content/prose/prose';

/** Gives captions that stand as paragraphs to what they belong to: the picture above, or the table below or above. */
export function withCaptions(blocks: readonly ProseBlock[], captions: ReadonlySet<ProseBlock>): ProseBlock[] {
  const out: ProseBlock[] = [];
  for (let i = 0; i < blocks.length; i++) {
    const block = blocks[i]!;
    const last = out.at(-1);
    const next = blocks[i + 1];
    if (block.block !== 'words' || !captions.has(block)) out.push(block);
    else if (last?.block === 'picture' && !last.caption.length) out[out.length - 1] = { ...last, caption: block.spans };
    else if (next?.block === 'table') {
      out.push({ ...next, caption: block.spans });
      i++;
    } else if (last?.block === 'table' && !last.caption.length) out[out.length - 1] = { ...last, caption: block.spans };
    else out.push(block);
  }
  return out;
}

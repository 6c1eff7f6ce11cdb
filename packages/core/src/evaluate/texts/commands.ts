import { nodeChanges } from '../../document/changes';
import type { Command } from '../../document/commands';
import type { Patch } from '../../document/patch-schema';
import { newId } from '../../document/ids';
import type { TextFrame } from '../../document/items';
import type { Block, Board, Master, Prose, Resource } from '../../document/schema';
import { allItems, pathTo } from '../../document/tree';
import { chainOf } from '../placed/chain';
import { blockInWords, firstWords, plainOf } from '../../document/texts/words';

const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;

/** What became of a text, for people. */
function inWords(before: Prose, after: readonly Block[], patches: readonly Patch[]): string {
  const olds = new Map(before.blocks.map((block) => [block.id, block]));
  const news = new Map(after.map((block) => [block.id, block]));
  const [added, removed] = [after.filter(({ id }) => !olds.has(id)), before.blocks.filter(({ id }) => !news.has(id))];
  const changed = new Set(patches.flatMap((patch) => (patch.op === 'set' && news.has(patch.node) ? [patch.node] : [])));
  const only = changed.size === 1 ? news.get([...changed][0]!)! : null;
  if (only && !added.length && !removed.length) {
    const what = blockInWords(olds.get(only.id)!);
    const attributes = patches.map((patch) => (patch.op === 'set' ? patch.attribute : ''));
    if (attributes.every((one) => one === 'role')) return `${what} is ${'role' in only ? only.role : 'another'} now`;
    if (attributes.every((one) => one === 'spans') && only.block === 'words') {
      const now = firstWords(plainOf(only.spans));
      return now && plainOf(only.spans) !== plainOf((olds.get(only.id) as typeof only).spans)
        ? `${before.name}: “${now}” reworded`
        : `${before.name}: ${what} changed`;
    }
    return `${before.name}: ${what} changed`;
  }
  const parts = [
    ...(added.length === 1
      ? [`${blockInWords(added[0]!)} added`]
      : added.length
        ? [`${counted(added.length, 'paragraph')} added`]
        : []),
    ...(removed.length === 1
      ? [`${blockInWords(removed[0]!)} removed`]
      : removed.length
        ? [`${counted(removed.length, 'paragraph')} removed`]
        : []),
    ...(changed.size ? [`${counted(changed.size, 'paragraph')} changed`] : []),
  ];
  return `${before.name}: ${parts.join(', ') || 'paragraphs moved'}`.slice(0, 300);
}

/**
 * A text as somebody left it, in one step: what did not change is not in it.
 * @param blocks as they are now; those that stay keep their ids
 * @param resources files that they show and that the master has not yet, after the last that it has
 */
export function setBlocks(
  text: Prose,
  blocks: readonly Block[],
  resources: { readonly master: string; readonly last: string | null; readonly added: readonly Resource[] } | null = null,
): Command {
  const patches = nodeChanges(text, { ...text, blocks: [...blocks] });
  let after = resources?.last ?? null;
  const kept = (resources?.added ?? []).map((node): Patch => {
    const patch: Patch = { op: 'insert', parent: resources!.master, list: 'resources', after, node };
    after = node.id;
    return patch;
  });
  return { label: inWords(text, blocks, patches), patches: [...kept, ...patches] };
}

/** Another name or language of a text. */
export const setOfText = (text: Prose, attribute: 'name' | 'language', value: string): Command => ({
  label: `${text.name}: ${attribute} ${value}`.slice(0, 300),
  patches: [{ op: 'set', node: text.id, attribute, value }],
});

/** A board for a text to be laid out on, with a frame that the text runs through. */
export function layOutText(master: Master, text: Prose): Command {
  const [width, height, margin] = [210, 297, 22];
  const layer = master.layers.find(({ visible, locked }) => visible && !locked) ?? master.layers[0]!;
  const frame: TextFrame = {
    kind: 'text-frame',
    id: newId(),
    layer: layer.id,
    text: text.id,
    x: margin,
    y: margin,
    width: width - 2 * margin,
    height: height - 2 * margin,
    size: 3.7,
  };
  const node: Board = { id: newId(), name: text.name, width, height, background: '#ffffff', items: [frame] };
  const patches: Patch[] = [{ op: 'insert', parent: master.id, list: 'boards', after: master.boards.at(-1)?.id ?? null, node }];
  return { label: `${text.name} laid out on a board`, patches };
}

/** Takes the frames of a text off all boards: it flows as it did, and boards that held nothing else go with them. */
export function takeOffBoards(master: Master, text: Prose): Command {
  const frames = new Set(chainOf(master, text.id).map(({ id }) => id));
  const patches = master.boards.flatMap((board): Patch[] => {
    const own = [...allItems(board.items)].filter(({ id }) => frames.has(id));
    if (!own.length) return [];
    if (own.length === board.items.length) return [{ op: 'remove', parent: master.id, list: 'boards', node: board.id }];
    return own.map(({ id }): Patch => ({ op: 'remove', parent: pathTo(board, id)!.at(-2)!.id, list: 'items', node: id }));
  });
  return { label: `${text.name} taken off the boards`, patches };
}

import { nodeChanges } from '../master/changes';
import type { Command } from '../master/commands';
import type { Patch } from '../master/patch-schema';
import type { Block, Prose, Resource } from '../master/schema';
import { blockInWords, firstWords, plainOf } from '../master/texts/words';

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

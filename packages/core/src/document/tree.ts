import { itemKind } from './items';
import { LISTS, type ListName } from './lists';
import type { Item, Master, Node } from './schema';
import { blockInWords } from './texts/words';

/** Lists that a master may be without: what is not there is empty. */
export const MAY_LACK: ReadonlySet<ListName> = new Set<ListName>(['parameters', 'tables', 'solids', 'texts']);
export { LISTS, type ListName };
type Holder = Node & Partial<Record<ListName, Node[]>>;

/** The children of a node, list by list. */
export function childLists(node: Node): [ListName, readonly Node[]][] {
  const holder = node as Holder;
  return LISTS.flatMap((list): [ListName, readonly Node[]][] => (holder[list] ? [[list, holder[list]]] : []));
}

/** The nodes from the master down to the one with this id, or undefined. */
export function pathTo(root: Node, id: string): Node[] | undefined {
  if (root.id === id) return [root];
  for (const [, children] of childLists(root))
    for (const child of children) {
      const found = pathTo(child, id);
      if (found) return [root, ...found];
    }
  return undefined;
}

export const findNode = (master: Master, id: string): Node | undefined => pathTo(master, id)?.at(-1);

/** The paths to several nodes at once, in one walk; ids that are not there are not in the answer. */
export function pathsTo(root: Node, ids: Iterable<string>): Map<string, Node[]> {
  const wanted = new Set(ids);
  const found = new Map<string, Node[]>();
  const path: Node[] = [];
  const visit = (node: Node): void => {
    path.push(node);
    if (wanted.has(node.id)) found.set(node.id, [...path]);
    for (const [, children] of childLists(node)) for (const child of children) if (found.size < wanted.size) visit(child);
    path.pop();
  };
  visit(root);
  return found;
}

/** A node and everything below it. */
export function* allNodes(node: Node): Generator<Node> {
  yield node;
  for (const [, children] of childLists(node)) for (const child of children) yield* allNodes(child);
}

/** All items below a list, groups opened, in order. */
export function* allItems(items: readonly Item[]): Generator<Item> {
  for (const item of items) {
    yield item;
    const inner = itemKind(item).openContents?.(item).items;
    if (inner) yield* allItems(inner);
  }
}

/** What a person would call this node. */
export function nodeInWords(node: Node): string {
  if ('title' in node) return node.title;
  if ('kind' in node) {
    return node.name || itemKind(node).words(node);
  }
  if ('block' in node) return blockInWords(node);
  return 'cells' in node ? 'row' : node.name;
}

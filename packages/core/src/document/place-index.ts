import type { Master, Node } from './schema';
import { type ListName, childLists } from './tree';

/** Where a node stands: below which parent, in which of its lists, and about where in it. */
export interface Place {
  readonly parent: string;
  readonly list: ListName;
  /** Where it was last seen; what stands before it may have come or gone since. */
  at: number;
}

/** Every node of a master by its id. */
export type PlaceIndex = Map<string, Place | null>;

export function addPlaces(index: PlaceIndex, node: Node): void {
  for (const [list, children] of childLists(node))
    children.forEach((child, at) => {
      index.set(child.id, { parent: node.id, list, at });
      addPlaces(index, child);
    });
}

/** Ids of a node and of everything below it. */
export function* idsBelow(node: Node): Generator<string> {
  yield node.id;
  for (const [, children] of childLists(node)) for (const child of children) yield* idsBelow(child);
}

// An index belongs to one master at a time and goes over to what an edit makes of it, so that the thousandth step of a
// draft costs as little as the first. Applying patches to an older master builds a new one.
const indexes = new WeakMap<Master, PlaceIndex>();

/** Takes the index of a master, or makes it; until it is given back it belongs to the caller. */
export function takeIndex(master: Master): PlaceIndex {
  const known = indexes.get(master);
  indexes.delete(master);
  if (known) return known;
  const index: PlaceIndex = new Map([[master.id, null]]);
  addPlaces(index, master);
  return index;
}

export const giveIndex = (master: Master, index: PlaceIndex): void => void indexes.set(master, index);

/** The place of an id in a list, searched outwards from where it was last seen. */
export function findFrom(children: readonly Node[], id: string, from: number): number {
  for (let off = 0; from - off >= 0 || from + off < children.length; off++) {
    if (children[from + off]?.id === id) return from + off;
    if (children[from - off]?.id === id) return from - off;
  }
  return -1;
}

import { itemKind } from '../../document/items';
import type { Item, Master, PlacedItem } from '../../document/schema';

/** Whether an item shows another part of its master. */
export const isPlaced = (item: Item): item is PlacedItem => itemKind(item).readPart !== undefined;

/** Whether what an item shows is there. */
export function isThere(item: PlacedItem, master: Master): boolean {
  const { list, id } = itemKind(item).readPart!(item);
  return (master[list] ?? []).some((one) => one.id === id);
}

/** All items that show a part, groups opened. */
export function placedIn(items: readonly Item[]): PlacedItem[] {
  return items.flatMap((item) => (isPlaced(item) ? [item] : 'items' in item ? placedIn(item.items) : []));
}

/** An item that shows something, or draws by a rule, as a group of what it draws. */
export const groupOf = (item: Item, items: Item[]): Item => ({
  kind: 'group',
  id: item.id,
  ...(item.name ? { name: item.name } : {}),
  layer: item.layer,
  ...(item.transform ? { transform: item.transform } : {}),
  items,
});

/** Items with those that show something replaced; the same list where there are none. */
export function withPlaced(items: readonly Item[], made: ReadonlyMap<string, Item[]>): Item[] {
  return items.map((item): Item => {
    if (isPlaced(item)) return groupOf(item, made.get(item.id) ?? []);
    return 'items' in item && placedIn(item.items).length ? { ...item, items: withPlaced(item.items, made) } : item;
  });
}

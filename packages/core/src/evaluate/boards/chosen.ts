import { type Scope, boardsIn } from '../../contracts/scope';
import { itemKind } from '../../document/items';
import type { Board, Item, Master } from '../../document/schema';

/** With `objects`, the items that are named or stand in one that is. */
export function* chosen(items: readonly Item[], objects: ReadonlySet<string> | null): Generator<Item> {
  for (const item of items)
    if (!objects || objects.has(item.id)) yield item;
    else {
      const inner = itemKind(item).openContents?.(item)?.items;
      if (inner) {
        const some = [...chosen(inner, objects)];
        if (some.length) yield { ...item, items: some } as Item;
      }
    }
}

/** The boards of a scope, with what of them it names. */
export function boardsToShow(master: Master, scope: Scope): readonly Board[] {
  const { boards } = boardsIn(master, scope);
  const objects = scope.of === 'boards' && scope.objects ? new Set(scope.objects) : null;
  return objects ? boards.map((board) => ({ ...board, items: [...chosen(board.items, objects)] })) : boards;
}

/** Whether any of the objects is there that a scope names; where it names none, they all are. */
export function hasObjects(master: Master, scope: Scope): boolean {
  if (scope.of !== 'boards' || !scope.objects) return true;
  return boardsToShow(master, scope).some(({ items }) => items.length > 0);
}

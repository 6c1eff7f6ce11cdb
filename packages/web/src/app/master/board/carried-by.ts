import type { CopyView } from '@inkwell-twin/api';
import { type Board, type Item, type Master, allItems, boardsIn, footprintOf } from '@inkwell-twin/core/web';

/** Labels of the copies that carry any of these objects. */
export function carriedBy(master: Master, board: Board, items: readonly Item[], copies: readonly CopyView[]): string[] {
  const ids = [...allItems(items)].map(({ id }) => id);
  return copies
    .filter((copy) => {
      if (!boardsIn(master, copy.scope).boards.some(({ id }) => id === board.id)) return false;
      const parts = footprintOf(master, copy).parts();
      return ids.some((id) => parts.has(id));
    })
    .map(({ label }) => label);
}

import type { CopyView } from '@inkwell-twin/api';
import {
  type Board,
  type Item,
  type Master,
  allItems,
  findBoard,
  carriesOf,
  footprintOf,
  recipeKey,
} from '@inkwell-twin/core/web';

/** Labels of the copies that carry any of these objects. */
export function carriedBy(master: Master, board: Board, items: readonly Item[], copies: readonly CopyView[]): string[] {
  const ids = [...allItems(items)].map(({ id }) => id);
  return copies
    .filter(({ target, options, board: name }) => {
      const carries = carriesOf(target, options);
      if (!carries || findBoard(master, name)?.id !== board.id) return false;
      const { parts } = footprintOf(master, board, recipeKey({ id: target }, options), carries);
      return ids.some((id) => parts.has(id));
    })
    .map(({ label }) => label);
}

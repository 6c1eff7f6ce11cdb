import { PART_LISTS, type Master, allItems, nodeInWords } from '@inkwell-twin/core/web';
import type { Findable } from '../services/findable';

/** Something that can be done: what it is called, its key, and how. */
export type Act = readonly [name: string, key: string, act: () => void];

/** What can be gone to and done on a master, by name. */
export function findableHere(
  master: Master | null,
  acts: readonly Act[],
  to: { readonly part: (id: string) => void; readonly object: (id: string) => void },
): Findable[] {
  const group = 'On this master';
  const parts = PART_LISTS.flatMap((list) =>
    (master?.[list] ?? []).map(({ id, name }): Findable => ({ group, name, act: () => to.part(id) })),
  );
  const objects = (master?.boards ?? []).flatMap((board) =>
    [...allItems(board.items)].map((item): Findable => ({
      group,
      name: nodeInWords(item),
      beside: board.name,
      act: () => to.object(item.id),
    })),
  );
  return [...acts.map(([name, beside, act]): Findable => ({ group: 'Do', name, beside, act })), ...parts, ...objects];
}

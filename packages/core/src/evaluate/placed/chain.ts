import { itemKind } from '../../document/items';
import type { TextFrame } from '../../document/items/kinds/text-frame';
import type { Item, Master } from '../../document/schema';
import { allItems } from '../../document/tree';

const readsText = (item: Item, text: string): boolean => {
  const reads = itemKind(item).readPart?.(item);
  return reads?.list === 'texts' && reads.id === text;
};

/** The frames that a text runs through, board by board. */
export const chainOf = (master: Master, text: string): TextFrame[] =>
  master.boards.flatMap(({ items }) => [...allItems(items)].filter((item) => readsText(item, text)) as TextFrame[]);

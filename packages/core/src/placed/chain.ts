import { allItems } from '../master/tree';
import type { Master } from '../master/schema';
import type { TextFrame } from '../master/kinds/text-frame';

/** The frames that a text runs through, board by board. */
export const chainOf = (master: Master, text: string): TextFrame[] =>
  master.boards.flatMap(({ items }) =>
    [...allItems(items)].filter((item): item is TextFrame => item.kind === 'text-frame' && item.text === text),
  );

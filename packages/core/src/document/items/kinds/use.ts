import * as z from 'zod';
import { Id, itemBase } from '../../schema-parts';
import type { ItemKind } from '../kind';

declare module '../union' {
  interface Items {
    use: UseItem;
  }
}

export const UseItem = z.object({ kind: z.literal('use'), ...itemBase, symbol: Id });
export type UseItem = z.infer<typeof UseItem>;

export const kind: ItemKind<UseItem> = {
  id: 'use',
  schema: UseItem,
  words: () => 'symbol use',
  lists: [],
  openContents: ({ symbol }) => ({ symbol }),
  sized: false,
  fields: [],
};

import * as z from 'zod';
import type { Formulas } from '../../parameters/schema';
import { BLENDS, type Blend, type ClipShape, type Mask, groupEffects } from '../../effects';
import { MatrixSchema, itemBase } from '../../schema-parts';
import type { Item } from '../union';
import type { ItemKind } from '../kind';
import { anyItem } from '../table';

declare module '../union' {
  interface Items {
    group: GroupItem;
  }
}

export interface GroupItem {
  kind: 'group';
  id: string;
  name?: string | undefined;
  layer: string | null;
  transform?: z.infer<typeof MatrixSchema> | undefined;
  formulas?: Formulas | undefined;
  opacity?: number | undefined;
  blend?: Blend | undefined;
  clip?: ClipShape[] | undefined;
  mask?: Mask | undefined;
  items: Item[];
}
export const GroupItem = z.object({
  kind: z.literal('group'),
  ...itemBase,
  ...groupEffects,
  get items(): z.ZodType<Item[]> {
    return z.array(anyItem());
  },
});

export const kind: ItemKind<GroupItem> = {
  id: 'group',
  schema: GroupItem,
  words: () => 'group',
  lists: ['items'],
  openContents: ({ items }) => ({ items: items as never[] }),
  sized: false,
  fields: [
    { attribute: 'opacity', label: 'Opacity', kind: 'share' },
    { attribute: 'blend', label: 'Mixes', kind: 'choice', choices: BLENDS },
  ],
};

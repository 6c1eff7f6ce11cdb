import * as z from 'zod';
import { OutlineSchema, drawnBase } from '../../schema-parts';
import { ENDS, POINTS, outlined } from '../by-hand';
import { type ItemKind, LOOK } from '../kind';
import { mappedOutlines, outlinesByPoints } from '../shaped';

declare module '../union' {
  interface Items {
    path: PathItem;
  }
}

export const PathItem = z.object({ kind: z.literal('path'), ...drawnBase, outlines: z.array(OutlineSchema) });
export type PathItem = z.infer<typeof PathItem>;

export const kind: ItemKind<PathItem> = {
  id: 'path',
  schema: PathItem,
  words: () => 'path',
  lists: [],
  outlines: ({ outlines }) => outlines,
  byPoints: outlinesByPoints,
  mapShape: ({ outlines }, matrix) => mappedOutlines(outlines, matrix),
  sized: false,
  fields: LOOK,
  offered: 3,
  byHand: [
    { label: 'line', way: 'line', words: POINTS, from: outlined },
    { label: 'curve', way: 'curve', words: `Press for each point and pull to bend. ${ENDS}`, from: outlined },
  ],
  example: ({ outline }) => ({ outlines: [outline()] }),
};

import * as z from 'zod';
import { OutlineSchema, drawnBase } from '../schema-parts';
import { type ItemKind, LOOK } from './kind';
import { mappedOutlines, outlinesByPoints } from './shaped';

declare module './union' {
  interface Items {
    path: PathItem;
  }
}

export const PathItem = z.object({ kind: z.literal('path'), ...drawnBase, outlines: z.array(OutlineSchema) });
export type PathItem = z.infer<typeof PathItem>;

export const path: ItemKind<PathItem> = {
  id: 'path',
  schema: PathItem,
  words: () => 'path',
  lists: [],
  outlines: ({ outlines }) => outlines,
  byPoints: outlinesByPoints,
  shaped: ({ outlines }, matrix) => mappedOutlines(outlines, matrix),
  sized: false,
  fields: LOOK,
};

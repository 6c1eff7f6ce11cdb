import * as z from 'zod';
import { fromPoints } from '../../geometry/outline';
import { PointSchema, drawnBase } from '../schema-parts';
import { type ItemKind, LOOK } from './kind';

export const PolylineItem = z.object({
  kind: z.literal('polyline'),
  ...drawnBase,
  points: z.array(PointSchema).min(1),
  closed: z.boolean(),
});
export type PolylineItem = z.infer<typeof PolylineItem>;

export const polyline: ItemKind<PolylineItem> = {
  id: 'polyline',
  schema: PolylineItem,
  words: () => 'polyline',
  lists: [],
  outlines: ({ points, closed }) => [fromPoints(points, closed)],
  sized: false,
  fields: LOOK,
};

import * as z from 'zod';
import { apply } from '../../../base/geometry/matrix';
import { fromPoints } from '../../../base/geometry/outline';
import { near } from '../../../base/geometry/point';
import { PointSchema, drawnBase } from '../../schema-parts';
import { type ItemKind, LOOK } from '../kind';

declare module '../union' {
  interface Items {
    polyline: PolylineItem;
  }
}

export const PolylineItem = z.object({
  kind: z.literal('polyline'),
  ...drawnBase,
  points: z.array(PointSchema).min(1),
  closed: z.boolean(),
});
export type PolylineItem = z.infer<typeof PolylineItem>;

export const kind: ItemKind<PolylineItem> = {
  id: 'polyline',
  schema: PolylineItem,
  words: () => 'polyline',
  lists: [],
  outlines: ({ points, closed }) => [fromPoints(points, closed)],
  byPoints: {
    outlines: ({ points, closed }) => [fromPoints(points, closed)],
    take: (_item, [one, ...more]) => {
      if (!one || more.length) return null;
      const points = [one.start, ...one.segments.map(({ to }) => to)];
      const joined = one.closed && points.length > 1 && near(points[0]!, points.at(-1)!, 1e-9);
      return { points: joined ? points.slice(1) : points, closed: one.closed };
    },
  },
  mapShape: ({ points }, matrix) => ({ points: points.map((point) => apply(matrix, point)) }),
  sized: false,
  fields: LOOK,
  example: ({ number, pick }) => {
    const [x, y] = [number(0, 200), number(0, 100)];
    return {
      points: [
        [x, y],
        [x + number(1, 60), y],
        [x, y + number(1, 40)],
      ],
      closed: pick([true, false]),
    };
  },
};

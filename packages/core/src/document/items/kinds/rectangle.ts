import * as z from 'zod';
import { type Outline, type Segment, fromPoints } from '../../../base/geometry/outline';
import { drawnBase, finite, notNegative, positive } from '../../schema-parts';
import { FRAME, pulledUp } from '../by-hand';
import { type ItemKind, LOOK, freshLine, measure } from '../kind';
import { stretchedFrame } from '../shaped';

declare module '../union' {
  interface Items {
    rectangle: RectangleItem;
  }
}

export const RectangleItem = z.object({
  kind: z.literal('rectangle'),
  ...drawnBase,
  x: finite,
  y: finite,
  width: positive,
  height: positive,
  radius: notNegative,
});
export type RectangleItem = z.infer<typeof RectangleItem>;

function outlineOf({ x, y, width, height, radius }: RectangleItem): Outline {
  const r = Math.min(radius, width / 2, height / 2);
  const [right, top] = [x + width, y + height];
  if (r <= 0)
    return fromPoints(
      [
        [x, y],
        [right, y],
        [right, top],
        [x, top],
      ],
      true,
    );
  const line = (px: number, py: number): Segment => ({ kind: 'line', to: [px, py] });
  const corner = (px: number, py: number, cx: number, cy: number): Segment => ({
    kind: 'arc',
    to: [px, py],
    centre: [cx, cy],
    clockwise: false,
  });
  const segments = [
    line(right - r, y),
    corner(right, y + r, right - r, y + r),
    line(right, top - r),
    corner(right - r, top, right - r, top - r),
    line(x + r, top),
    corner(x, top - r, x + r, top - r),
    line(x, y + r),
    corner(x + r, y, x + r, y + r),
  ];
  return { start: [x + r, y], segments, closed: true };
}

export const kind: ItemKind<RectangleItem> = {
  id: 'rectangle',
  schema: RectangleItem,
  words: () => 'rectangle',
  lists: [],
  outlines: (item) => [outlineOf(item)],
  placed: ({ x, y }, dx, dy) => ({ x: x + dx, y: y + dy }),
  mapShape: stretchedFrame,
  sized: true,
  fields: [
    measure('x', 'Across'),
    measure('y', 'Up'),
    measure('width', 'Width', 0.01),
    measure('height', 'Height', 0.01),
    measure('radius', 'Corner radius', 0),
    ...LOOK,
  ],
  offered: 1,
  byHand: [{ label: 'rectangle', way: 'frame', words: FRAME, from: pulledUp }],
  example: ({ number }) => {
    const [width, height] = [number(1, 60), number(1, 40)];
    return { x: number(0, 200), y: number(0, 100), width, height, radius: width > 8 && height > 8 ? 3 : 0 };
  },
  fresh: {
    label: 'rectangle',
    make: ({ cx, cy, unit, colour }) => ({
      style: freshLine(colour),
      x: cx - 2 * unit,
      y: cy - unit,
      width: 4 * unit,
      height: 2 * unit,
      radius: 0,
    }),
  },
};

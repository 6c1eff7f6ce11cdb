import * as z from 'zod';
import { circleOutline, ellipseOutline } from '../../../base/geometry/arcs';
import { drawnBase, finite, positive } from '../../schema-parts';
import { FRAME, byHand } from '../by-hand';
import { type ItemKind, LOOK, freshLine, measure } from '../kind';
import { stretchOf } from '../shaped';

declare module '../union' {
  interface Items {
    ellipse: EllipseItem;
  }
}

export const EllipseItem = z.object({
  kind: z.literal('ellipse'),
  ...drawnBase,
  cx: finite,
  cy: finite,
  rx: positive,
  ry: positive,
});
export type EllipseItem = z.infer<typeof EllipseItem>;

export const kind: ItemKind<EllipseItem> = {
  id: 'ellipse',
  schema: EllipseItem,
  words: () => 'ellipse',
  lists: [],
  outlines: ({ cx, cy, rx, ry }) => [rx === ry ? circleOutline([cx, cy], rx) : ellipseOutline([rx, 0, 0, ry, cx, cy])],
  placed: ({ cx, cy }, dx, dy) => ({ cx: cx + dx, cy: cy + dy }),
  mapShape: ({ cx, cy, rx, ry }, matrix) => {
    const by = stretchOf(matrix);
    return by && { cx: by.sx * cx + by.e, cy: by.sy * cy + by.f, rx: by.sx * rx, ry: by.sy * ry };
  },
  sized: true,
  fields: [
    measure('cx', 'Centre across'),
    measure('cy', 'Centre up'),
    measure('rx', 'Half width', 0.01),
    measure('ry', 'Half height', 0.01),
    ...LOOK,
  ],
  offered: 2,
  byHand: [
    {
      label: 'ellipse',
      way: 'frame',
      words: FRAME,
      from: ({ box }) =>
        !box
          ? null
          : {
              cx: byHand((box.minX + box.maxX) / 2),
              cy: byHand((box.minY + box.maxY) / 2),
              rx: byHand((box.maxX - box.minX) / 2),
              ry: byHand((box.maxY - box.minY) / 2),
            },
    },
  ],
  example: ({ number }) => ({ cx: number(0, 200), cy: number(0, 100), rx: number(0.5, 30), ry: number(0.5, 20) }),
  fresh: { label: 'ellipse', make: ({ cx, cy, unit, colour }) => ({ style: freshLine(colour), cx, cy, rx: unit, ry: unit }) },
};

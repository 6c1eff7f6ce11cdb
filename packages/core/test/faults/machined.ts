import type { Item, Master } from '../../src';
import { filled, layer, lined, masterWith, text } from '../build';

const on = (name: string) => ({ layer: name, style: lined('#14213a') });
const disc = (id: string, name: string, cx: number, cy: number, rx: number, ry = rx): Item => ({
  kind: 'ellipse',
  id,
  name: id,
  ...on(name),
  cx,
  cy,
  rx,
  ry,
});

const worked: Item[] = [
  { kind: 'rectangle', id: 'plate', name: 'Plate', ...on('route'), x: 40, y: 40, width: 150, height: 90, radius: 12 },
  disc('hole', 'route', 80, 90, 9),
  disc('oval', 'route', 130, 60, 16, 8),
  disc('bore', 'drill', 60, 60, 1.5),
  disc('bore-2', 'drill', 170, 110, 1.5),
  disc('pond', 'pocket', 150, 100, 14),
  {
    kind: 'polyline',
    id: 'kite',
    name: 'Kite',
    ...on('route'),
    points: [
      [230, 50],
      [270, 90],
      [235, 130],
      [205, 90],
    ],
    closed: true,
  },
  {
    kind: 'polyline',
    id: 'mark',
    name: 'Mark',
    ...on('engrave'),
    points: [
      [60, 46],
      [90, 48],
      [95, 52],
      [120, 47],
    ],
    closed: false,
  },
  text('word', 'Fen', { layer: 'engrave', style: lined('#14213a', 0.2), x: 50, y: 112, size: 9 }),
];

/** Something for each of a router’s tools: routed with holes, drilled, a pocket, engraved lines and letters. */
export const routed: Master = masterWith(worked, {
  layers: ['route', 'drill', 'pocket', 'engrave'].map((one) => layer(one, one as 'route')),
  boards: [{ id: 'b1', name: 'Sheet', width: 300, height: 200, background: null, items: worked }],
});

const sewn: Item[] = [
  { kind: 'ellipse', id: 'pond', layer: 'sewn', style: filled('#2f6f8f'), cx: 50, cy: 60, rx: 22, ry: 14 },
  {
    kind: 'polyline',
    id: 'reed',
    layer: 'sewn',
    style: lined('#4d7a3a', 3),
    points: [
      [12, 12],
      [14, 40],
      [10, 70],
    ],
    closed: false,
  },
  {
    kind: 'polyline',
    id: 'edge',
    layer: 'sewn',
    style: lined('#14213a', 0.4),
    points: [
      [80, 20],
      [90, 40],
      [82, 70],
    ],
    closed: false,
  },
  text('word', 'Fen 7', { layer: 'sewn', style: filled('#14213a'), x: 30, y: 18, size: 14 }),
];

/** An area, a column, a thin line and letters for the needle, in three colours. */
export const stitched: Master = masterWith(sewn, {
  layers: [layer('sewn', 'stitch')],
  boards: [{ id: 'b1', name: 'Badge', width: 100, height: 100, background: null, items: sewn }],
});

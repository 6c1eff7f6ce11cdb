import { type Item, type Master, type Outline, fromPoints } from '../../src';
import { filled, layer, lined, masterWith, rectangle, square, text } from '../build';

/** Turned the other way round than a square. */
const HOLE: Outline = fromPoints(
  [
    [28, 38],
    [28, 50],
    [40, 50],
    [40, 38],
  ],
  true,
);

/** A board with something for every fault: a hole, covering fills, curves, text of two fonts, groups, a symbol, three layers. */
const items: Item[] = [
  ...Array.from({ length: 4 }, (_, i) =>
    rectangle(`r${i}`, 5 + i * 30, 5, { width: 10 + i, height: 8 + i, radius: i % 2 ? 2 : 0 }),
  ),
  {
    kind: 'ellipse',
    id: 'c',
    layer: 'cut',
    style: { ...lined('#14213a', 0.5), fill: '#f7f0e2' },
    cx: 180,
    cy: 80,
    rx: 9,
    ry: 9,
  },
  { kind: 'ellipse', id: 'e', layer: 'cut', style: lined('#c23b22', 0.5), cx: 150, cy: 80, rx: 14, ry: 6 },
  {
    kind: 'path',
    id: 'frame',
    layer: 'cut',
    style: filled('#17796a'),
    outlines: [square(20, 30, 30), HOLE].map((one) => ({ ...one, segments: [...one.segments] })),
  },
  {
    kind: 'path',
    id: 'wave',
    layer: 'score',
    style: lined('#2b4180', 0.7),
    outlines: [{ start: [60, 40], segments: [{ kind: 'cubic', c1: [70, 60], c2: [80, 20], to: [95, 45] }], closed: false }],
  },
  {
    kind: 'polyline',
    id: 'kite',
    layer: 'print',
    style: filled('#b26a00'),
    points: [
      [100, 30],
      [120, 45],
      [105, 60],
      [98, 44],
    ],
    closed: true,
  },
  {
    kind: 'polyline',
    id: 'tail',
    layer: 'print',
    style: filled('#7b2f86'),
    points: [
      [110, 40],
      [130, 44],
      [112, 50],
    ],
    closed: true,
  },
  {
    kind: 'polyline',
    id: 'fold',
    layer: 'score',
    style: lined('#2b4180', 0.25),
    points: [
      [5, 95],
      [60, 97],
    ],
    closed: false,
  },
  text('t', 'Sedge Loop', { y: 84 }),
  text('m', '1.8 km', { y: 70, x: 110, size: 7, font: 'Spline Sans Mono', align: 'end' }),
  text('turned', 'to the hide', { x: 0, y: 0, size: 5, transform: [0.8, 0.6, -0.6, 0.8, 140, 20] }),
];
/** What hatches say besides one colour: a gradient, and a pattern of straight lines. */
const shaded: Item[] = [
  rectangle('sky', 150, 60, {
    style: {
      fill: {
        kind: 'linear',
        within: 'box',
        at: [1, 0, 0, 1, 0, 0],
        stops: [
          { offset: 0, colour: '#204080' },
          { offset: 1, colour: '#f0e0a0' },
        ],
      },
      stroke: null,
      strokeWidth: 0,
    },
  }),
  rectangle('marsh', 150, 5, {
    style: {
      fill: { kind: 'pattern', symbol: 'reeds', width: 6, height: 4, at: [0.8, 0.6, -0.6, 0.8, 0, 0] },
      stroke: null,
      strokeWidth: 0,
    },
  }),
];
const reeds = {
  id: 'reeds',
  name: 'Reeds',
  anchor: [0, 0] as [number, number],
  items: [
    {
      kind: 'polyline' as const,
      id: 'reed',
      layer: 'print',
      style: lined('#2f6b3c', 0.25),
      points: [
        [1, 2],
        [4, 2],
      ] as [number, number][],
      closed: false,
    },
  ],
};
const made: Master = masterWith([...items, ...shaded], {
  symbols: [reeds],
  layers: [layer('cut'), layer('print', 'print'), layer('score', 'score')],
});
/** On a ground of a colour. */
export const spoilt: Master = { ...made, boards: [{ ...made.boards[0]!, background: '#faf6ec' }] };

import {
  type Gradient,
  type Item,
  type Master,
  type SymbolDefinition,
  idFrom,
  moveItems,
  setAttribute,
} from '@inkwell-twin/core';
import { filled, heron, lined, smooth } from './shapes';
import { type DemoMaster, tell } from './story';

const INK = '#14213a';
const WATER: Gradient = {
  kind: 'radial',
  within: 'box',
  at: [0.62, 0, 0, 0.62, 0.42, 0.6],
  stops: [
    { offset: 0, colour: '#e6f1ef' },
    { offset: 0.7, colour: '#c2dbdf' },
    { offset: 1, colour: '#a9c8cf' },
  ],
};
/** Dusk over the fen, down to the paper. */
const SKY: Gradient = {
  kind: 'linear',
  within: 'box',
  at: [0, -1, 1, 0, 0, 1],
  stops: [
    { offset: 0, colour: '#9fbccb' },
    { offset: 0.55, colour: '#e9d9c6', opacity: 0.8 },
    { offset: 1, colour: '#f4f7f0', opacity: 0 },
  ],
};
/** Tufts of moss, side by side. */
const TUFT: SymbolDefinition = {
  id: 'tuft',
  name: 'Tuft',
  anchor: [0, 0],
  items: [
    {
      kind: 'path',
      id: 'tuft-blades',
      layer: null,
      style: { ...lined('#6d8f5a', 0.3), cap: 'round' },
      outlines: [-1, 0, 1].map((way) => ({
        start: [2.5, 1.2] as const,
        segments: [{ kind: 'line' as const, to: [2.5 + way * 1.1, 2.9 - Math.abs(way) * 0.5] as const }],
        closed: false,
      })),
    },
  ],
};

const words = (id: string, layer: string, text: string, x: number, y: number, size: number, bold = false): Item => ({
  kind: 'text',
  id,
  layer,
  style: filled(INK),
  text,
  x,
  y,
  size,
  font: bold ? 'Commissioner Bold' : 'Commissioner',
  align: 'start',
});

function map(): Item[] {
  const pools: [string, number, number, number, number][] = [
    ['North pool', 96, 148, 20, 12],
    ['Lantern mere', 62, 96, 30, 19],
    ['Otter pond', 112, 62, 13, 9],
  ];
  return [
    {
      kind: 'rectangle',
      id: 'sky',
      name: 'Sky',
      layer: 'ground',
      style: { fill: SKY, stroke: null, strokeWidth: 0 },
      x: 0,
      y: 165,
      width: 148,
      height: 45,
      radius: 0,
    },
    {
      kind: 'path',
      id: 'moss',
      name: 'Moss',
      layer: 'ground',
      style: {
        fill: { kind: 'pattern', symbol: 'tuft', width: 5, height: 3.6, at: [1, 0, 0.25, 1, 0, 0] },
        stroke: null,
        strokeWidth: 0,
      },
      outlines: [
        smooth([
          [10, 60],
          [22, 112],
          [52, 134],
          [88, 118],
          [100, 84],
          [70, 66],
          [40, 48],
        ]),
      ],
    },
    ...pools.map(([name, cx, cy, rx, ry], i): Item => ({
      kind: 'ellipse',
      id: `pool-${i + 1}`,
      name,
      layer: 'ground',
      style: { fill: WATER, stroke: '#7fa8b0', strokeWidth: 0.4 },
      cx,
      cy,
      rx,
      ry,
    })),
    {
      kind: 'path',
      id: 'boardwalk',
      name: 'Boardwalk',
      layer: 'paths',
      style: lined('#9a5b2e', 1.4),
      outlines: [
        smooth([
          [14, 24],
          [30, 52],
          [26, 88],
          [44, 122],
          [72, 130],
          [104, 122],
          [118, 92],
          [96, 70],
          [72, 60],
          [44, 40],
          [20, 26],
        ]),
      ],
    },
    {
      kind: 'path',
      id: 'sedge-loop',
      name: 'Sedge Loop',
      layer: 'paths',
      style: { ...lined('#2f6b3c', 0.9), dash: [2.6, 1.9], cap: 'round' },
      outlines: [
        smooth([
          [72, 130],
          [84, 158],
          [108, 166],
          [124, 146],
          [104, 122],
        ]),
      ],
    },
    {
      kind: 'rectangle',
      id: 'hide',
      name: 'Hide',
      layer: 'paths',
      style: filled(INK),
      x: 40,
      y: 120,
      width: 6,
      height: 4.5,
      radius: 0.6,
    },
    words('hide-name', 'lettering', 'hide', 48, 121, 4),
    words('mere-name', 'lettering', 'Lantern Mere', 48, 95, 5),
    words('title', 'lettering', 'Lantern Fen', 12, 190, 13, true),
    words('subtitle', 'lettering', 'Paths, pools and the two hides', 12, 182, 5),
    heron('heron', 'pictures', 108, 14),
    {
      kind: 'polyline',
      id: 'north',
      name: 'North arrow',
      layer: 'lettering',
      style: filled(INK),
      points: [
        [132, 186],
        [135, 196],
        [138, 186],
        [135, 188.5],
      ],
      closed: true,
    },
  ];
}

function inside(): Item[] {
  const paragraphs: [string, string][] = [
    ['Keep to the boards', 'The moss beside them is deeper\nthan it looks, and it grows\na finger’s width in a year.'],
    ['Listen first', 'Bitterns call before sunrise\nfrom the sedge by the mere.'],
    ['Lanterns', 'On the first Saturday of October\nthe loop is lit until nine.'],
  ];
  return [
    words('inside-title', 'lettering', 'Before you set out', 12, 188, 9, true),
    ...paragraphs.flatMap(([head, body], i) => [
      words(`head-${i + 1}`, 'lettering', head, 12, 170 - i * 46, 6, true),
      words(`body-${i + 1}`, 'lettering', body, 12, 162 - i * 46, 4.4),
    ]),
    heron('heron-2', 'pictures', 118, 20),
  ];
}

function first(): Master {
  const layer = (id: string, name: string, colour: string) => ({
    id,
    name,
    colour,
    visible: true,
    locked: false,
    process: 'print' as const,
  });
  return {
    id: idFrom('Fen map leaflet'),
    title: 'Fen map leaflet',
    owner: 'Ines Okoro',
    purpose: 'sheet',
    unit: 'mm',
    layers: [
      layer('ground', 'Ground', '#7fa8b0'),
      layer('paths', 'Paths', '#9a5b2e'),
      layer('pictures', 'Pictures', '#46546d'),
      layer('lettering', 'Lettering', INK),
    ],
    symbols: [TUFT],
    boards: [
      { id: 'map', name: 'Map', width: 148, height: 210, background: '#f4f7f0', items: map() },
      { id: 'inside', name: 'Inside', width: 148, height: 210, background: '#ffffff', items: inside() },
    ],
    resources: [],
    description: 'Two printed boards, folded once.',
  };
}

/** Fen map leaflet: two printed boards; a drawing that both sides changed, and a copy that is gone. */
export function leaflet(): DemoMaster {
  const story = tell(first(), 'Ines Okoro', { time: '2026-11-03T13:00:00.000Z', message: 'Map and inside' }, [
    {
      time: '2026-11-09T09:45:00.000Z',
      message: 'Otter pond surveyed again',
      commands: [(now) => moveItems(now, ['pool-3'], 3, 2)],
    },
    {
      time: '2026-11-13T16:10:00.000Z',
      message: 'Lanterns until ten',
      commands: [(now) => setAttribute(now, 'body-3', 'text', 'On the first Saturday of October\nthe loop is lit until ten.')],
    },
    {
      time: '2026-11-18T10:25:00.000Z',
      message: 'Second hide drawn in',
      commands: [(now) => moveItems(now, ['hide', 'hide-name'], 1.5, 0)],
    },
  ]);
  return {
    ...story,
    copies: [
      { label: 'map for the printer', target: 'svg', options: { text: 'outlines' }, board: 'Map', rev: 4 },
      { label: 'inside for the printer', target: 'svg', options: { text: 'outlines' }, board: 'Inside', rev: 3 },
      { label: 'inside, for the web', target: 'svg', options: {}, board: 'Inside', rev: 2, mishap: { kind: 'delete' } },
      {
        label: 'survey drawing',
        target: 'dxf',
        options: { version: '2000' },
        board: 'Map',
        rev: 2,
        mishap: { kind: 'edit', find: 'Lantern Mere', replace: 'Lantern Lake' },
      },
    ],
  };
}

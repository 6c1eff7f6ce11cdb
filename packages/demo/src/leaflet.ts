import {
  type Gradient,
  type Item,
  type Master,
  type Services,
  type PictureItem,
  type Resource,
  type SymbolDefinition,
  idFrom,
  moveItems,
  setAttribute,
} from '@inkwell-twin/core';
import { heronOutline } from './pool-picture';
import { filled, lined, smooth } from './shapes';
import { shot } from './shot';
import { type DemoMaster, tell } from './story';

/** Of the shot as the leaflet has it, pixels. */
const SHOT = { width: 1600, height: 1200, ppi: 300 };

const picture = (id: string, name: string, resource: Resource, more: Omit<Partial<PictureItem>, 'kind'>): PictureItem => ({
  kind: 'picture',
  id,
  name,
  layer: 'pictures',
  style: { fill: null, stroke: null, strokeWidth: 0 },
  resource: resource.id,
  x: 0,
  y: 0,
  width: 40,
  height: 30,
  ...more,
});

/** The heron without the pool behind it, its feet in the sedge by the mere. */
const cutOutHeron = (resource: Resource): PictureItem =>
  picture('heron', 'Heron, cut out', resource, {
    x: 104,
    y: 9,
    width: 22,
    height: 27.225,
    crop: { left: 0.45, bottom: 0.13, right: 0.85, top: 0.79 },
    corrections: [
      { kind: 'levels', black: 0.1, white: 0.95, gamma: 1.05 },
      { kind: 'cut-out', by: 'outline', colour: '#ffffff', distance: 0, points: heronOutline(SHOT.width, SHOT.height), soft: 2 },
    ],
  });

/** The pool as it looks before sunrise: the dull light put right. */
const pool = (resource: Resource): PictureItem =>
  picture('pool-picture', 'North pool before sunrise', resource, {
    x: 12,
    y: 12,
    width: 124,
    height: 46,
    crop: { left: 0, bottom: 0.465, right: 0.47, top: 0.6974731183 },
    corrections: [
      { kind: 'levels', black: 0.14, white: 0.9, gamma: 1.08 },
      { kind: 'white point', colour: '#ebe1d4' },
      { kind: 'saturation', amount: 1.25 },
    ],
  });

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

function map(resource: Resource): Item[] {
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
    { ...words('subtitle', 'lettering', 'Paths, pools and the two hides', 12, 182, 5), spacing: 0.04 } as Item,
    cutOutHeron(resource),
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

/** Of the first two paragraphs: the box that they fill, and what stands out in them. */
const BOXED = [
  { width: 70, leading: 1.35, runs: [{ from: 24, to: 30, font: 'Commissioner Bold' }] },
  { width: 70, leading: 1.35, runs: [{ from: 0, to: 8, font: 'Source Serif 4 Italic', colour: '#9a5b2e' }] },
];

function inside(resource: Resource): Item[] {
  const paragraphs: [string, string][] = [
    ['Keep to the boards', 'The moss beside them is deeper than it looks, and it grows a finger’s width in a year.'],
    ['Listen first', 'Bitterns call before sunrise from the sedge by the mere.'],
    ['Lanterns', 'On the first Saturday of October\nthe loop is lit until nine.'],
  ];
  return [
    words('inside-title', 'lettering', 'Before you set out', 12, 188, 9, true),
    ...paragraphs.flatMap(([head, body], i) => [
      words(`head-${i + 1}`, 'lettering', head, 12, 170 - i * 40, 6, true),
      { ...words(`body-${i + 1}`, 'lettering', body, 12, 162 - i * 40, 4.4), ...(i < 2 ? BOXED[i] : {}) } as Item,
    ]),
    pool(resource),
  ];
}

function first(resource: Resource): Master {
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
      { id: 'map', name: 'Map', width: 148, height: 210, background: '#f4f7f0', items: map(resource) },
      { id: 'inside', name: 'Inside', width: 148, height: 210, background: '#ffffff', items: inside(resource) },
    ],
    resources: [resource],
    description: 'Two printed boards, folded once.',
  };
}

/** Fen map leaflet: two printed boards; a drawing that both sides changed, and a copy that is gone. */
export async function leaflet({ pictures }: Pick<Services, 'pictures'>, share: number): Promise<DemoMaster> {
  const { resource, bytes } = await shot(pictures!, SHOT.width * share, SHOT.height * share, SHOT.ppi * share);
  const story = tell(first(resource), 'Ines Okoro', { time: '2026-11-03T13:00:00.000Z', message: 'Map and inside' }, [
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
    kept: [{ resource, bytes }],
    copies: [
      { label: 'map for the printer', target: 'svg', options: { text: 'outlines' }, part: 'Map', rev: 4 },
      { label: 'inside for the printer', target: 'svg', options: { text: 'outlines' }, part: 'Inside', rev: 3 },
      { label: 'inside, for the web', target: 'svg', options: {}, part: 'Inside', rev: 2, mishap: { kind: 'delete' } },
      {
        label: 'survey drawing',
        target: 'dxf',
        options: { version: '2000' },
        part: 'Map',
        rev: 2,
        mishap: { kind: 'edit', find: 'Lantern Mere', replace: 'Lantern Lake' },
      },
    ],
  };
}

import { type Content1, type Item1, idFrom, writeProject } from '@inkwell-twin/core';

type Stretch = Extract<Item1, { kind: 'path' }>['d'][number];
const INK = '#14213a';
const path = (
  id: string,
  name: string,
  layer: string,
  d: Stretch[],
  fill: string | null,
  stroke: string | null,
  width = 0,
): Item1 => ({
  kind: 'path',
  id,
  name,
  layer,
  d,
  fill,
  stroke,
  width,
});

/** A plate with round corners. */
const plate = (width: number, height: number, r: number): Stretch[] => {
  const k = r * 0.4477;
  return [
    ['M', r, 0],
    ['L', width - r, 0],
    ['C', width - k, 0, width, k, width, r],
    ['L', width, height - r],
    ['C', width, height - k, width - k, height, width - r, height],
    ['L', r, height],
    ['C', k, height, 0, height - k, 0, height - r],
    ['L', 0, r],
    ['C', 0, k, k, 0, r, 0],
    ['Z'],
  ];
};
/** An otter that swims to the left: back, tail and head in one line. */
const otter: Stretch[] = [
  ['M', 34, 52],
  ['C', 28, 53, 24, 57, 25, 62],
  ['C', 26, 67, 33, 69, 38, 66],
  ['C', 50, 76, 74, 77, 90, 68],
  ['C', 102, 61, 112, 60, 124, 66],
  ['C', 116, 56, 103, 52, 92, 54],
  ['C', 80, 48, 52, 47, 34, 52],
  ['Z'],
];
const wave = (y: number, x: number): Stretch[] => [
  ['M', x, y],
  ['C', x + 8, y + 4, x + 14, y + 4, x + 22, y],
  ['C', x + 30, y - 4, x + 36, y - 4, x + 44, y],
];

const CONTENT: Content1 = {
  writer: 'inkwell-twin 0.1',
  id: idFrom('Otter plaque'),
  title: 'Otter plaque',
  owner: 'Ansa Brook',
  rev: 2,
  saved: '2023-09-14T08:30:00.000Z',
  layers: [
    { id: 'plate', name: 'Plate', colour: '#8a5a2b', visible: true },
    { id: 'engraving', name: 'Engraving', colour: INK, visible: true },
  ],
  boards: [
    {
      id: 'front',
      name: 'Front',
      width: 150,
      height: 100,
      background: '#f6efe2',
      items: [
        path('outline', 'Plate', 'plate', plate(150, 100, 9), null, '#8a5a2b', 0.6),
        path('otter', 'Otter', 'engraving', otter, INK, null),
        path(
          'eye',
          'Eye',
          'engraving',
          [['M', 29, 61], ['C', 29, 62.2, 31, 62.2, 31, 61], ['C', 31, 59.8, 29, 59.8, 29, 61], ['Z']],
          '#f6efe2',
          null,
        ),
        ...[0, 1, 2].map((i) =>
          path(`wave-${i + 1}`, `Wave ${i + 1}`, 'engraving', wave(42 - i * 4, 20 + i * 30), null, INK, 0.7),
        ),
        {
          kind: 'text',
          id: 'name',
          name: 'Name',
          layer: 'engraving',
          text: 'Otter Run',
          x: 20,
          y: 16,
          size: 13,
          bold: true,
          fill: INK,
        },
        {
          kind: 'text',
          id: 'place',
          name: 'Place',
          layer: 'engraving',
          text: 'Lantern Fen',
          x: 96,
          y: 16,
          size: 7,
          bold: false,
          fill: INK,
        },
      ],
    },
  ],
  pictures: [],
};

/** Otter plaque: a plate for a rail, kept as a folder project of native version 1. */
export const otterPlaque = (): { folder: string; index: string; files: Map<string, Uint8Array> } => ({
  folder: 'otter_plaque',
  index: 'otter_plaque.inkfolio',
  files: writeProject('otter_plaque', CONTENT),
});

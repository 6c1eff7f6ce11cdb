import { type Item, type Master, type Style, idFrom, moveItems, setWork } from '@inkwell-twin/core';
import { type DemoMaster, tell } from './story';

const [REED, WATER, INK, GOLD] = ['#4d7a3a', '#2b6a9b', '#14213a', '#c8962b'];
type Pt = [number, number];
const filled = (fill: string): Style => ({ fill, stroke: null, strokeWidth: 0 });
const lined = (stroke: string, strokeWidth: number): Style => ({ fill: null, stroke, strokeWidth });

/** A reed with its head, sewn as two columns. */
const reed = (id: string, name: string, x: number, high: number): Item[] => [
  {
    kind: 'polyline',
    id,
    name,
    layer: 'sewn',
    style: lined(REED, 1.4),
    points: [
      [x, 34],
      [x + 1, 34 + high],
    ] as Pt[],
    closed: false,
  },
  {
    kind: 'polyline',
    id: `${id}-head`,
    name: `Head of ${name.toLowerCase()}`,
    layer: 'sewn',
    style: lined(GOLD, 3),
    points: [
      [x + 1, 34 + high],
      [x + 1.4, 42 + high],
    ] as Pt[],
    closed: false,
  },
];

const items: Item[] = [
  { kind: 'ellipse', id: 'ground', name: 'Ground', layer: 'sewn', style: filled('#e9e2cf'), cx: 45, cy: 45, rx: 38, ry: 38 },
  {
    kind: 'path',
    id: 'pool',
    name: 'Pool',
    layer: 'sewn',
    style: filled(WATER),
    work: { stitch: { angle: 20 } },
    outlines: [
      {
        start: [14, 36],
        segments: [
          { kind: 'cubic', c1: [24, 42], c2: [34, 31], to: [45, 36] },
          { kind: 'cubic', c1: [56, 41], c2: [66, 31], to: [76, 36] },
          { kind: 'cubic', c1: [72, 27], c2: [64, 22], to: [60, 21] },
          { kind: 'line', to: [30, 21] },
          { kind: 'cubic', c1: [24, 23], c2: [17, 28], to: [14, 36] },
        ],
        closed: true,
      },
    ],
  },
  ...reed('reed-1', 'Left reed', 30, 22),
  ...reed('reed-2', 'Middle reed', 44, 28),
  ...reed('reed-3', 'Right reed', 57, 19),
  { kind: 'ellipse', id: 'rim', name: 'Rim', layer: 'sewn', style: lined(INK, 3), cx: 45, cy: 45, rx: 38, ry: 38 },
  {
    kind: 'text',
    id: 'initials',
    name: 'Initials',
    layer: 'sewn',
    style: filled('#f6efe2'),
    text: '{initials}',
    slots: true,
    x: 45,
    y: 24,
    size: 11,
    font: 'Commissioner',
    align: 'middle',
  },
];

const WARDENS = [
  ['Ines Okoro', 'IO'],
  ['Ansa Brook', 'AB'],
  ['Bram Ädler', 'BÄ'],
  ['Wren Quill', 'WQ'],
  ['Mika Fell', 'MF'],
] as const;

const first = (): Master => ({
  id: idFrom('Warden badge'),
  title: 'Warden badge',
  owner: 'Ansa Brook',
  purpose: 'panel',
  unit: 'mm',
  parameters: [{ id: 'initials-of', name: 'initials', measure: 'text', value: 'IO' }],
  layers: [{ id: 'sewn', name: 'Sewn', colour: INK, visible: true, locked: false, process: 'stitch' }],
  symbols: [],
  boards: [{ id: 'badge', name: 'Badge', width: 90, height: 90, background: null, items }],
  tables: [
    {
      id: 'wardens',
      name: 'Wardens',
      columns: [
        { id: 'warden-name', name: 'Warden', type: 'text' },
        { id: 'warden-initials', name: 'Initials', type: 'text' },
      ],
      summaries: [],
      rows: WARDENS.map(([warden, initials], i) => ({
        id: `w${i + 1}`,
        cells: { 'warden-name': warden, 'warden-initials': initials },
      })),
    },
  ],
  resources: [],
  description: 'The badge of the wardens of the fen, sewn in five threads, each with initials of its own.',
});

/** Warden badge: sewn, with one list of stitches in step and one behind, and a table of those who wear it. */
export function wardenBadge(): DemoMaster {
  const story = tell(first(), 'Ansa Brook', { time: '2026-11-11T08:20:00.000Z', message: 'Badge with three reeds' }, [
    {
      time: '2026-11-17T11:45:00.000Z',
      message: 'Water sewn denser',
      commands: [(now) => setWork(now, ['pool'], { stitch: { angle: 20, density: 0.35 } })],
    },
    {
      time: '2026-11-20T15:05:00.000Z',
      message: 'Middle reed further left',
      commands: [(now) => moveItems(now, ['reed-2', 'reed-2-head'], -1, 0)],
    },
  ]);
  return {
    ...story,
    copies: [
      { label: 'stitches', target: 'stitch', options: {}, part: 'Badge', rev: 3 },
      { label: 'stitches, first badge', target: 'stitch', options: { density: 0.5 }, part: 'Badge', rev: 1 },
    ],
  };
}

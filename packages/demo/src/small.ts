import { type Item, type Master, idFrom, setAttribute } from '@inkwell-twin/core';
import { arrow, filled, lined, reed } from './shapes';
import { type DemoMaster, tell } from './story';

const INK = '#14213a';
/** Plates, signs and labels of the reserve: what it says, in what size, whose it is, what it is about, and where it lies. */
const KINDS = [
  {
    words: 'Hide',
    of: ['North', 'South', 'Mere', 'Reed', 'Willow'],
    width: 120,
    height: 60,
    owner: 'Ines Okoro',
    keywords: ['hides', 'signs'],
    colour: '#2f6b3c',
  },
  {
    words: 'Bench',
    of: ['Alder', 'Birch', 'Oak', 'Hazel', 'Ash'],
    width: 90,
    height: 30,
    owner: 'Ansa Brook',
    keywords: ['benches'],
    colour: '#8a5a2b',
  },
  {
    words: 'Trail mark',
    of: ['1', '2', '3', '4', '5'],
    width: 60,
    height: 60,
    owner: 'Ines Okoro',
    keywords: ['trails', 'signs'],
    colour: '#2b4180',
  },
  {
    words: 'Bird label',
    of: ['Bittern', 'Coot', 'Heron', 'Reed warbler', 'Teal'],
    width: 100,
    height: 70,
    owner: 'Bram Adler',
    keywords: ['labels', 'birds'],
    colour: '#7a2f58',
  },
  {
    words: 'Plant label',
    of: ['Bog bean', 'Marsh fern', 'Sedge', 'Sundew', 'Water mint'],
    width: 100,
    height: 70,
    owner: 'Bram Adler',
    keywords: ['labels', 'plants'],
    colour: '#6d8f5a',
  },
  {
    words: 'Gate plate',
    of: ['East', 'North', 'Pond', 'South', 'West'],
    width: 140,
    height: 50,
    owner: 'Ansa Brook',
    keywords: ['gates', 'signs'],
    colour: '#46546d',
  },
  {
    words: 'Sample tag',
    of: ['A', 'B', 'C', 'D', 'E'],
    width: 50,
    height: 25,
    owner: 'Mirek Talu',
    keywords: ['samples'],
    colour: '#b04a2f',
  },
  {
    words: 'Notice',
    of: ['Deep water', 'Dogs on leads', 'Keep closed', 'No fires', 'Quiet please'],
    width: 148,
    height: 105,
    owner: 'Ines Okoro',
    keywords: ['notices', 'signs'],
    colour: '#b8860b',
  },
] as const;

function first(kind: (typeof KINDS)[number], name: string, at: number): Master {
  const { width, height, owner, keywords, colour } = kind;
  const title = `${kind.words} ${name}`;
  const size = Math.min(height * 0.3, width / (name.length * 0.62 + 1));
  const items: Item[] = [
    {
      kind: 'rectangle',
      id: 'plate',
      name: 'Plate',
      layer: 'cut',
      style: lined(colour, 0.4),
      x: 2,
      y: 2,
      width: width - 4,
      height: height - 4,
      radius: Math.min(6, height / 6),
    },
    {
      kind: 'text',
      id: 'words',
      name: 'Words',
      layer: 'print',
      style: filled(INK),
      text: name,
      x: 8,
      y: height * 0.42,
      size,
      font: 'Commissioner Bold',
      align: 'start',
    },
    {
      kind: 'text',
      id: 'below',
      name: 'Line below',
      layer: 'print',
      style: filled(colour),
      text: `Lantern Fen, ${kind.words.toLowerCase()}`,
      x: 8,
      y: height * 0.2,
      size: Math.max(3, height * 0.09),
      font: 'Commissioner',
      align: 'start',
    },
    ...(at % 2 ? [arrow('arrow', 'print', width - 34, height * 0.78, 24, height * 0.07, colour)] : []),
    ...(at % 3 === 0
      ? [
          {
            kind: 'use' as const,
            id: 'reed',
            layer: 'print',
            symbol: 'reed',
            transform: [1.2, 0, 0, 1.2, width - 14, height * 0.12] as const,
          },
        ]
      : []),
  ];
  return {
    id: idFrom(`small ${title}`),
    title,
    owner,
    purpose: 'panel',
    unit: 'mm',
    layers: [
      { id: 'cut', name: 'Cut', colour: '#c0392b', visible: true, locked: false, process: 'cut' },
      { id: 'print', name: 'Print', colour: INK, visible: true, locked: false, process: 'print' },
    ],
    symbols: [reed(colour)],
    boards: [{ id: 'front', name: 'Front', width, height, background: '#ffffff', items }],
    resources: [],
    description: `${title} of Lantern Fen.`,
    keywords: [...keywords],
    rights: 'Lantern Fen Trust',
  };
}

/** How many there are. */
export const SMALL_COUNT = KINDS.reduce((sum, { of }) => sum + of.length, 0);

/** Forty small masters, as a workshop has them: each has a revision or three, some have copies. */
export function smallMasters(): DemoMaster[] {
  return KINDS.flatMap((kind, k) =>
    kind.of.map((name, n): DemoMaster => {
      const at = k * 5 + n;
      const day = (offset: number) =>
        new Date(Date.UTC(2026, 8, 1 + at + offset * 3, 9 + (at % 7), (at * 13) % 60)).toISOString();
      const told = tell(
        first(kind, name, at),
        kind.owner,
        { time: day(0), message: 'Laid out' },
        [
          {
            message: 'Line of the plate made stronger',
            commands: [(now: Master) => setAttribute(now, 'plate', 'style.strokeWidth', 0.6)],
          },
          {
            message: 'Words moved up a little',
            commands: [(now: Master) => setAttribute(now, 'words', 'y', kind.height * 0.46)],
          },
        ]
          .slice(0, at % 3)
          .map((chapter, i) => ({ ...chapter, time: day(i + 1) })),
      );
      const copies =
        at % 2 === 0
          ? [{ label: `${kind.words} to cut`, target: 'svg', options: {}, part: '', rev: 1 }]
          : at % 5 === 1
            ? [{ label: `${kind.words} for the workshop`, target: 'dxf', options: {}, part: '', rev: told.revisions.length }]
            : [];
      return { ...told, copies, place: PLACES[k % PLACES.length]! };
    }),
  );
}
const PLACES = [
  'Small work/Signs',
  'Small work/Plates',
  'Small work/Signs',
  'Small work/Labels',
  'Small work/Labels',
  'Small work/Plates',
  'Laboratory',
  'Small work/Signs',
];

import { type Item, type Master, idFrom, moveItems, setWork } from '@inkwell-twin/core';
import { lined } from './shapes';
import { type DemoMaster, tell } from './story';

const INK = '#14213a';
type Pt = [number, number];
const curve = (c1: Pt, c2: Pt, to: Pt) => ({ kind: 'cubic' as const, c1, c2, to });

/** An otter that swims to the left, in one line, and the water that it swims in. */
const otter: Item = {
  kind: 'path',
  id: 'otter',
  name: 'Otter',
  layer: 'deep',
  style: lined(INK, 0.4),
  outlines: [
    {
      start: [54, 78],
      segments: [
        curve([44, 80], [38, 86], [40, 95]),
        curve([42, 104], [54, 107], [62, 102]),
        curve([82, 119], [122, 120], [148, 106]),
        curve([164, 97], [178, 97], [190, 103]),
        curve([180, 89], [166, 82], [150, 85]),
        curve([132, 74], [84, 70], [54, 78]),
      ],
      closed: true,
    },
  ],
};
const water = (id: string, name: string, y: number): Item => ({
  kind: 'rectangle',
  id,
  name,
  layer: 'shallow',
  style: lined('#2b6a9b', 0.3),
  x: 30,
  y,
  width: 170,
  height: 9,
  radius: 4.5,
});
const hole = (id: string, name: string, cx: number, cy: number): Item => ({
  kind: 'ellipse',
  id,
  name,
  layer: 'holes',
  style: lined(INK, 0.3),
  cx,
  cy,
  rx: 1.5,
  ry: 1.5,
});

const first = (): Master => ({
  id: idFrom('Otter trail plaque'),
  title: 'Otter trail plaque',
  owner: 'Ansa Brook',
  purpose: 'panel',
  unit: 'mm',
  layers: [
    { id: 'plate', name: 'Plate', colour: '#8a5a2b', visible: true, locked: false, process: 'route', work: { tabs: 3 } },
    { id: 'deep', name: 'Otter', colour: INK, visible: true, locked: false, process: 'pocket', work: { depth: 4, tool: 2 } },
    {
      id: 'shallow',
      name: 'Water',
      colour: '#2b6a9b',
      visible: true,
      locked: false,
      process: 'pocket',
      work: { depth: 1.5, tool: 2 },
    },
    { id: 'holes', name: 'Screw holes', colour: '#46546d', visible: true, locked: false, process: 'drill' },
    { id: 'words', name: 'Words', colour: '#7a2f58', visible: true, locked: false, process: 'engrave' },
  ],
  symbols: [],
  boards: [
    {
      id: 'front',
      name: 'Front',
      width: 230,
      height: 150,
      background: '#f6efe2',
      items: [
        {
          kind: 'rectangle',
          id: 'plate-outline',
          name: 'Plate',
          layer: 'plate',
          style: lined('#8a5a2b', 0.6),
          x: 10,
          y: 10,
          width: 210,
          height: 130,
          radius: 12,
        },
        otter,
        water('water-1', 'Upper water', 54),
        water('water-2', 'Lower water', 40),
        hole('hole-1', 'Left hole', 20, 75),
        hole('hole-2', 'Right hole', 210, 75),
        {
          kind: 'text',
          id: 'trail',
          name: 'Name of the trail',
          layer: 'words',
          style: { fill: INK, stroke: null, strokeWidth: 0 },
          text: 'Otter trail',
          x: 115,
          y: 20,
          size: 12,
          font: 'Commissioner',
          align: 'middle',
        },
      ],
    },
  ],
  resources: [],
  description: 'A plaque of oak, routed and pocketed in two depths, for the trail along the brook.',
});

/** Otter trail plaque: pocketed in two depths, with one program in step and one behind. */
export function trailPlaque(): DemoMaster {
  const story = tell(first(), 'Ansa Brook', { time: '2026-11-09T13:05:00.000Z', message: 'First plaque' }, [
    {
      time: '2026-11-13T09:40:00.000Z',
      message: 'Water a little shallower',
      commands: [(now) => setWork(now, ['shallow'], { depth: 1.2 })],
    },
    {
      time: '2026-11-19T16:25:00.000Z',
      message: 'Otter higher above the water',
      commands: [(now) => moveItems(now, ['otter'], 0, 3)],
    },
  ]);
  return {
    ...story,
    copies: [
      { label: 'program for the router', target: 'gcode', options: { corners: 'rounded' }, part: 'Front', rev: 3 },
      {
        label: 'program, first plaque',
        target: 'gcode',
        options: { corners: 'rounded', entry: 'plunge' },
        part: 'Front',
        rev: 1,
      },
    ],
  };
}

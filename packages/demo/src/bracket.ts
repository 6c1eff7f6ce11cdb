import {
  type Amount,
  type Axis,
  type Board,
  type Command,
  type Feature,
  type Item,
  type Master,
  type Solid,
  type SolidView,
  idFrom,
} from '@inkwell-twin/core';
import { type DemoMaster, tell } from './story';

const BRACKET = 'bracket';
const parameter = (id: string, name: string, value: Amount) => ({ id: `p-${id}`, name, value });

const plate = (
  id: string,
  name: string,
  plane: 'xy' | 'xz' | 'yz',
  at: readonly [Amount, Amount, Amount, Amount],
  offset: Amount,
  by: Amount,
  corner?: Amount,
): Feature => ({
  id,
  name,
  op: 'extrude',
  plane,
  offset,
  outline: {
    shape: 'rectangle',
    x: at[0],
    y: at[1],
    width: at[2],
    height: at[3],
    ...(corner === undefined ? {} : { corner }),
  },
  by,
  join: 'add',
});

const hole = (id: string, name: string, axis: Axis, at: [Amount, Amount, Amount], diameter: Amount, sink?: Amount): Feature => ({
  id,
  name,
  op: 'hole',
  axis,
  at,
  diameter,
  ...(sink === undefined ? {} : { sink: { diameter: sink, angle: 90 } }),
});

const rib = (id: string, name: string, offset: Amount): Feature => ({
  id,
  name,
  op: 'extrude',
  plane: 'yz',
  offset,
  outline: {
    shape: 'points',
    points: [
      ['depth / 2 - plate', 'plate / 2'],
      ['depth / 2 - plate', 'height * 0.6'],
      ['-depth / 6', 'plate / 2'],
    ],
  },
  by: 'rib',
  join: 'add',
});

const bracket: Solid = {
  id: BRACKET,
  name: 'Post bracket',
  colour: '#5f6f73',
  parameters: [
    parameter('width', 'width', 120),
    parameter('depth', 'depth', 90),
    parameter('height', 'height', 110),
    parameter('plate', 'plate', 6),
    parameter('rib', 'rib', 5),
    parameter('bolt', 'bolt', 9),
    parameter('screw', 'screw', 6.5),
    parameter('spacing', 'spacing', 'width - 40'),
  ],
  features: [
    plate('foot', 'Foot', 'xy', [0, 0, 'width', 'depth'], 0, 'plate', 8),
    plate('back', 'Back', 'xz', [0, 'height / 2', 'width', 'height'], 'depth / 2 - plate', 'plate'),
    rib('rib-left', 'Left rib', '-width / 2 + 6'),
    { id: 'rib-right', name: 'Right rib', op: 'row', of: 'rib-left', count: 2, step: ['width - 12 - rib', 0, 0] },
    hole('bolt-1', 'Bolt hole', 'z', ['-spacing / 2', '-depth / 2 + 20', 'plate'], 'bolt'),
    { id: 'bolts-x', name: 'Bolt holes in a row', op: 'row', of: 'bolt-1', count: 2, step: ['spacing', 0, 0] },
    { id: 'bolts', name: 'Bolt holes', op: 'row', of: 'bolts-x', count: 2, step: [0, 40, 0] },
    hole('screw-1', 'Screw hole', 'y', ['-spacing / 2', 'depth / 2', 40], 'screw'),
    { id: 'screws-x', name: 'Screw holes in a row', op: 'row', of: 'screw-1', count: 2, step: ['spacing', 0, 0] },
    { id: 'screws', name: 'Screw holes', op: 'row', of: 'screws-x', count: 2, step: [0, 0, 50] },
    {
      id: 'rounding',
      name: 'Rounded top corners',
      op: 'fillet',
      radius: 10,
      edges: [
        { along: 'y', near: ['-width / 2', 'depth / 2', 'height'] },
        { along: 'y', near: ['width / 2', 'depth / 2', 'height'] },
      ],
    },
    {
      id: 'inner',
      name: 'Fillet where foot and back meet',
      op: 'fillet',
      radius: 4,
      edges: [{ along: 'x', near: [0, 'depth / 2 - plate', 'plate'] }],
    },
  ],
};

const PRINT = 'print';
const view = (id: string, name: string, rest: Partial<SolidView>): Item => ({
  kind: 'solid-view',
  id,
  name,
  layer: PRINT,
  solid: BRACKET,
  view: 'front',
  scale: 0.5,
  x: 0,
  y: 0,
  size: 3,
  ...rest,
});
const line = (id: string, points: [number, number][], strokeWidth = 0.35): Item => ({
  kind: 'polyline',
  id,
  layer: PRINT,
  style: { fill: null, stroke: '#14213a', strokeWidth },
  points,
  closed: false,
});
const words = (id: string, text: string, x: number, y: number, size: number): Item => ({
  kind: 'text',
  id,
  layer: PRINT,
  style: { fill: '#14213a', stroke: null, strokeWidth: 0 },
  text,
  x,
  y,
  size,
  font: 'Work Sans',
  align: 'start',
});

/** The drawing of the bracket: from above, in front, from the left, and as a whole. */
const sheet = (): Board => ({
  id: 'sheet',
  name: 'Drawing sheet',
  width: 297,
  height: 210,
  background: null,
  items: [
    line(
      'edge',
      [
        [10, 10],
        [287, 10],
        [287, 200],
        [10, 200],
        [10, 10],
      ],
      0.5,
    ),
    view('from-above', 'From above', { view: 'top', dimensions: 'overall and holes', x: 75, y: 150 }),
    view('in-front', 'In front', { view: 'front', dimensions: 'overall and holes', x: 75, y: 70 }),
    view('from-the-left', 'From the left', { view: 'left', dimensions: 'overall', x: 160, y: 70 }),
    view('whole', 'As a whole', { view: 'isometric', hidden: 'left out', scale: 0.6, x: 220, y: 145 }),
    line('title', [
      [197, 10],
      [197, 34],
      [287, 34],
    ]),
    words('name', 'Post bracket', 201, 25, 5),
    words('scale', '1 : 2, mm', 201, 15, 3.2),
    words('house', 'Tern & Tally Signworks', 240, 15, 3.2),
  ],
});

const first = (): Master => ({
  id: idFrom('demo post bracket'),
  title: 'Post bracket',
  owner: 'Ansa Brook',
  purpose: 'part',
  unit: 'mm',
  layers: [{ id: PRINT, name: 'Print', colour: '#14213a', visible: true, locked: false, process: 'print' }],
  symbols: [],
  boards: [sheet()],
  solids: [bracket],
  resources: [],
  description: 'Holds a waymarker post at Lantern Fen to a deck: four bolts through the foot, four screws through the back.',
});

const set = (label: string, node: string, attribute: string, value: unknown) => (): Command => ({
  label,
  patches: [{ op: 'set', node, attribute, value }],
});

/** What somebody did by hand: the corners about one screw hole moved outwards by a quarter of a millimetre. */
function widened(at: readonly [x: number, z: number], radius: number, by: number) {
  return (line: string, x: string, y: string, z: string): string => {
    const [dx, dz] = [Number(x) - at[0], Number(z) - at[1]];
    const off = Math.hypot(dx, dz);
    if (Math.abs(off - radius) > 0.01) return line;
    const moved = (middle: number, part: number) => Number((middle + (part * (radius + by)) / off).toFixed(6));
    return `v ${moved(at[0], dx)} ${y} ${moved(at[1], dz)}`;
  };
}

/** Post bracket: a solid; a copy that is false by one hole. */
export const postBracket = (): DemoMaster => ({
  ...tell(first(), 'Ansa Brook', { time: '2026-04-20T09:00:00.000Z', message: 'First bracket' }, [
    { time: '2026-05-04T14:20:00.000Z', message: 'Bolts of 10 mm', commands: [set('Bolts', 'p-bolt', 'value', 11)] },
    {
      time: '2026-05-18T10:05:00.000Z',
      message: 'Shown in the grey of the hot-dip',
      commands: [set('Colour', BRACKET, 'colour', '#7d8a8c')],
    },
    { time: '2026-06-02T16:40:00.000Z', message: 'Ribs of 6 mm', commands: [set('Ribs', 'p-rib', 'value', 6)] },
  ]),
  copies: [
    { label: 'bracket for the workshop', target: 'step', options: {}, part: '', rev: 4 },
    {
      label: 'bracket for the mill',
      target: 'obj',
      options: {},
      part: '',
      rev: 4,
      mishap: { kind: 'edit', find: /v (\S+) (\S+) (\S+)/g, replace: widened([40, 90], 3.25, 0.25) },
    },
    { label: 'trial print', target: '3mf', options: {}, part: '', rev: 2 },
    { label: 'bracket to turn about', target: 'gltf', options: {}, part: '', rev: 4 },
    { label: 'drawing for the shop', target: 'pdf', options: {}, part: 'Drawing sheet', of: 'boards', rev: 4 },
    { label: 'drawing as it was', target: 'dxf', options: { version: '2000' }, part: 'Drawing sheet', of: 'boards', rev: 1 },
    {
      label: 'print in layers',
      target: 'stl',
      options: { encoding: 'text' },
      part: '',
      rev: 1,
      mishap: { kind: 'edit', find: /vertex 60 /, replace: 'vertex 61.5 ' },
    },
  ],
});

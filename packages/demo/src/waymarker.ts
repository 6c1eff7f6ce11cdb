import { type Item, type Master, idFrom, moveItems, setAttribute } from '@inkwell-twin/core';
import { arrow, filled, lined, reed } from './shapes';
import { type DemoMaster, tell } from './story';

const INK = '#14213a';

const holes = (): Item[] =>
  Array.from({ length: 5 }, (_, i): Item => ({
    kind: 'ellipse',
    id: `hole-${i + 1}`,
    name: `Hole ${i + 1} of 5`,
    layer: 'panel',
    style: lined(INK, 0.4),
    cx: 18 + i * 96,
    cy: 122,
    rx: 4,
    ry: 4,
    ...(i ? { formulas: { cx: i === 1 ? '18 + hole_spacing' : `18 + ${i} * hole_spacing` } } : {}),
  }));

const border = (): Item => ({
  kind: 'motif-line',
  id: 'reed-border',
  name: 'Reed border',
  layer: 'colour',
  outlines: [{ start: [16, 12], segments: [{ kind: 'line', to: [403.5, 12] }], closed: false }],
  symbol: 'reed',
  spacing: 15.5,
  manner: 'follow',
});

function first(): Master {
  const text = (
    id: string,
    name: string,
    words: string,
    x: number,
    y: number,
    size: number,
    font: 'Commissioner' | 'Commissioner Bold',
  ): Item => ({
    kind: 'text',
    id,
    name,
    layer: 'lettering',
    style: filled(INK),
    text: words,
    slots: true,
    x,
    y,
    size,
    font,
    align: 'start',
  });
  return {
    id: idFrom('Boardwalk waymarker'),
    title: 'Boardwalk waymarker',
    owner: 'Ines Okoro',
    purpose: 'panel',
    unit: 'mm',
    layers: [
      { id: 'panel', name: 'Panel', colour: '#14213a', visible: true, locked: false, process: 'route' },
      { id: 'lettering', name: 'Vinyl lettering', colour: '#2b4180', visible: true, locked: false, process: 'cut' },
      { id: 'colour', name: 'Reeds', colour: '#17796a', visible: true, locked: false, process: 'print' },
    ],
    parameters: [
      { id: 'p-width', name: 'width', value: 420, measure: 'length', note: 'Of the panel, with its edge' },
      { id: 'p-spacing', name: 'hole_spacing', value: 96, measure: 'length' },
      { id: 'p-trail', name: 'trail', value: 'Sedge Loop', measure: 'text' },
      { id: 'p-length', name: 'trail_length', value: 1.8, measure: 'number', note: 'In kilometres' },
    ],
    symbols: [reed('#17796a')],
    boards: [
      {
        id: 'front',
        name: 'Front',
        width: 420,
        height: 140,
        background: '#f7f0e2',
        formulas: { width: 'width' },
        items: [
          {
            kind: 'rectangle',
            id: 'outline',
            name: 'Panel outline',
            layer: 'panel',
            style: lined(INK, 0.6),
            x: 4,
            y: 4,
            width: 412,
            height: 132,
            radius: 8,
            formulas: { width: 'width - 8' },
          },
          ...holes(),
          border(),
          arrow('arrow', 'lettering', 30, 68, 96, 18, INK),
          text('trail', 'Trail name', '{trail}', 152, 70, 27, 'Commissioner Bold'),
          text('distance', 'Distance', '{trail_length} km, back to the hide', 152, 46, 14, 'Commissioner'),
        ],
      },
    ],
    resources: [],
    description: 'A routed cedar panel with vinyl lettering, one for each trail of the reserve.',
  };
}

/** Three panels' lettering from one piece of vinyl, with a frame to weed by. */
const ON_CUTTER = { machine: 'cutter', count: 3, spacing: 20, frame: 5 };

/** Boardwalk waymarker: a routed panel with vinyl lettering, in step, behind, touched and crossed; on a cutter and a router. */
export function waymarker(): DemoMaster {
  const story = tell(first(), 'Ines Okoro', { time: '2026-11-02T09:12:00.000Z', message: 'First panel' }, [
    {
      time: '2026-11-04T14:30:00.000Z',
      message: 'Second line in plain words',
      commands: [(now) => setAttribute(now, 'distance', 'text', '{trail_length} km, round to the hide')],
    },
    {
      time: '2026-11-06T08:05:00.000Z',
      message: 'Arrow lower, under the second hole',
      commands: [(now) => moveItems(now, ['arrow'], 4, -6)],
    },
    {
      time: '2026-11-11T10:40:00.000Z',
      message: 'Reeds in the reserve’s new green',
      commands: [(now) => setAttribute(now, 'reed-leaves', 'style.stroke', '#2f6b3c')],
    },
    {
      time: '2026-11-16T15:20:00.000Z',
      message: 'Hole spacing 94',
      commands: [(now) => setAttribute(now, 'p-spacing', 'value', 94)],
    },
    {
      time: '2026-11-20T11:02:00.000Z',
      message: 'Warmer ground',
      commands: [(now) => setAttribute(now, 'front', 'background', '#fbf6ee')],
    },
  ]);
  return {
    ...story,
    copies: [
      { label: 'trail web page', target: 'svg', options: { text: 'outlines' }, part: 'Front', rev: 6 },
      { label: 'proof for the reserve', target: 'svg', options: {}, part: 'Front', rev: 4 },
      {
        label: 'sheet for the hide',
        target: 'svg',
        options: { precision: '2' },
        part: 'Front',
        rev: 6,
        mishap: { kind: 'edit', find: '1.8 km, round to the hide', replace: '1.9 km, round to the hide' },
      },
      { label: 'metal shop drawing', target: 'dxf', options: { version: 'R12' }, part: 'Front', rev: 3 },
      { label: 'joiner’s drawing', target: 'dxf', options: { version: '2000' }, part: 'Front', rev: 5 },
      { label: 'vinyl lettering', target: 'hpgl', options: {}, part: 'Front', rev: 3 },
      {
        label: 'vinyl, first trial',
        target: 'hpgl',
        options: { chord: '0.1' },
        part: 'Front',
        rev: 2,
        mishap: { kind: 'edit', find: 'PU1200,', replace: 'PU1240,' },
      },
      { label: 'vinyl on the cutter', target: 'hpgl', options: ON_CUTTER, part: 'Front', rev: 6 },
      // Drilled for the holes as they were: the router would drill the posts wrong.
      { label: 'panel for the router', target: 'gcode', options: { tabs: 3 }, part: 'Front', rev: 4 },
    ],
  };
}

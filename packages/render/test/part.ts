import { type Feature, type Master, type Services, type Solid, newMaster } from '@inkwell-twin/core';
import { shippedFonts, solidEngine } from '../src';

export const services: Services = { fonts: shippedFonts(), solids: solidEngine };
export const time = '2026-11-26T10:00:00.000Z';

const bore = (
  id: string,
  x: number,
  y: number,
  diameter: number,
  rest: Partial<Extract<Feature, { op: 'hole' }>> = {},
): Feature => ({
  id,
  name: id,
  op: 'hole',
  axis: 'z',
  at: [x, y, 'thick'],
  diameter,
  ...rest,
});

/** A plate with a boss, four holes of which one is blind, a rounded edge and a chamfer; in no way symmetrical. */
export const plate = (): Solid => ({
  id: 'plate',
  name: 'Fen plate',
  colour: '#5f6f73',
  parameters: [
    { id: 'p1', name: 'wide', value: 60 },
    { id: 'p2', name: 'thick', value: 6 },
    { id: 'p3', name: 'half', value: 'wide / 2' },
  ],
  features: [
    {
      id: 'base',
      name: 'Base',
      op: 'extrude',
      plane: 'xy',
      offset: 0,
      outline: { shape: 'rectangle', x: 0, y: 0, width: 'wide', height: 40, corner: 5 },
      by: 'thick',
      join: 'add',
    },
    {
      id: 'boss',
      name: 'Boss',
      op: 'extrude',
      plane: 'xy',
      offset: 'thick',
      outline: { shape: 'circle', x: 12, y: 4, diameter: 16 },
      by: 9,
      join: 'add',
    },
    bore('hole-1', -22, -12, 5),
    bore('hole-2', -22, 12, 6.5),
    bore('hole-3', -4, -12, 4, { depth: 3.5 }),
    bore('hole-4', 12, 4, 7, { at: [12, 4, 15] }),
    {
      id: 'round',
      name: 'Round',
      op: 'fillet',
      radius: 2,
      edges: [{ form: 'round', on: { axis: 'z', value: 6 }, near: [20, 4, 6] }],
    },
    { id: 'bevel', name: 'Bevel', op: 'chamfer', distance: 1, edges: [{ on: { axis: 'z', value: 15 }, near: [20, 4, 15] }] },
  ],
});

/** A small turned knob beside it. */
export const knob = (): Solid => ({
  id: 'knob',
  name: 'Knob',
  parameters: [],
  features: [
    {
      id: 'turned',
      name: 'Turned',
      op: 'revolve',
      plane: 'xz',
      outline: {
        shape: 'points',
        points: [
          [0, 0],
          [8, 0],
          [8, 3],
          [4, 8],
          [6, 14],
          [0, 14],
        ],
      },
      angle: 360,
      join: 'add',
    },
  ],
});

export const masterOf = (...solids: readonly Solid[]): Master => ({
  ...newMaster('d7c0a3f2-0000-4000-8000-00000000000a', 'Fen plate', 'Ansa Brook', 'part'),
  solids: [...solids],
});

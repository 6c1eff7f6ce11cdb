import type { Master } from './schema';

/** What a new master is for: a sensible size, unit and background, all of which can be changed. */
export const PURPOSES = [
  { id: 'sheet', label: 'Printed sheet', width: 210, height: 297, background: '#ffffff', process: 'print' },
  { id: 'panel', label: 'Cut or routed panel', width: 400, height: 150, background: null, process: 'cut' },
  {
    id: 'screen',
    label: 'Picture for a screen',
    width: 338.667,
    height: 190.5,
    background: '#ffffff',
    process: 'print',
  },
] as const;

/** An empty master with one board and one layer. */
export function newMaster(id: string, title: string, owner: string, purposeId: string): Master {
  const purpose = PURPOSES.find((one) => one.id === purposeId) ?? PURPOSES[0];
  return {
    id,
    title,
    owner,
    purpose: purpose.id,
    unit: 'mm',
    layers: [
      {
        id: 'layer-1',
        name: purpose.process === 'cut' ? 'Cut' : 'Print',
        colour: '#14213a',
        visible: true,
        locked: false,
        process: purpose.process,
      },
    ],
    symbols: [],
    boards: [
      {
        id: 'board-1',
        name: 'Front',
        width: purpose.width,
        height: purpose.height,
        background: purpose.background,
        items: [],
      },
    ],
    resources: [],
    description: '',
  };
}

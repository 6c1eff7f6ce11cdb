import type { Master, Table } from './schema';

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

/** What a new master of measurements is for: a table, and no board yet. */
export const SERIES = { id: 'series', label: 'Measured series' } as const;

const seriesTable = (): Table => ({
  id: 'table-1',
  name: 'Measurements',
  key: 'table-1-c1',
  columns: [
    { id: 'table-1-c1', name: 'Sample', type: 'text' },
    { id: 'table-1-c2', name: 'Date', type: 'date' },
    { id: 'table-1-c3', name: 'Value', type: 'number' },
  ],
  rows: [{ id: 'table-1-r1', cells: {} }],
  summaries: [],
});

/** An empty master with one board and one layer, or with one table. */
export function newMaster(id: string, title: string, owner: string, purposeId: string): Master {
  const purpose = PURPOSES.find((one) => one.id === purposeId) ?? PURPOSES[0];
  return {
    id,
    title,
    owner,
    purpose: purposeId === SERIES.id ? SERIES.id : purpose.id,
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
    ...(purposeId === SERIES.id ? { tables: [seriesTable()] } : {}),
    boards:
      purposeId === SERIES.id
        ? []
        : [
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

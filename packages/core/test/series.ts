import type { Master, Row, Table } from '../src';
import { layer } from './build';

/** A table of measurements with every kind of column, formulas and summaries. */
export function seriesTable(rows = 24, more: Partial<Table> = {}): Table {
  const coatings = ['Reed oil', 'Fen wax', 'Tarn lacquer', 'Bare'];
  return {
    id: 't1',
    name: 'Panels',
    key: 'c1',
    columns: [
      { id: 'c1', name: 'Panel', type: 'text' },
      { id: 'c2', name: 'Coating', type: 'category' },
      { id: 'c3', name: 'Measured', type: 'date' },
      { id: 'c4', name: 'Gloss before', type: 'number', unit: 'GU', decimals: 1 },
      { id: 'c5', name: 'Gloss after', type: 'number', unit: 'GU', decimals: 1 },
      { id: 'c6', name: 'Cracked', type: 'yes or no' },
      {
        id: 'c7',
        name: 'Loss',
        type: 'number',
        unit: '%',
        decimals: 2,
        formula: '100 * (Gloss_before - Gloss_after) / Gloss_before',
      },
      { id: 'c8', name: 'Above the mean', type: 'yes or no', formula: 'Loss > Mean_loss' },
      { id: 'c9', name: 'Note', type: 'text' },
    ],
    rows: Array.from({ length: rows }, (_, i): Row => ({
      id: `r${i + 1}`,
      cells: {
        c1: `P-${String(i + 1).padStart(3, '0')}`,
        c2: coatings[i % 4]!,
        c3: `2026-0${1 + (i % 9)}-1${i % 10}`,
        c4: 80 + ((i * 37) % 100) / 7,
        ...(i % 11 === 10 ? {} : { c5: 60 + ((i * 53) % 100) / 9 }),
        c6: i % 3 === 0,
        ...(i % 5 === 0 ? { c9: i ? '=see “log”, p. 3' : '-dull, "matt"\nat the edge' } : {}),
      },
    })),
    summaries: [
      { id: 's1', name: 'Mean loss', formula: 'mean(Loss)', unit: '%', decimals: 2 },
      { id: 's2', name: 'Spread', formula: 'max(Gloss_after) - min(Gloss_after)', unit: 'GU', decimals: 1 },
      { id: 's3', name: 'Panels measured', formula: 'count(Gloss_after)' },
      { id: 's4', name: 'Worst tenth', formula: 'quantile(Loss, 0.9)', unit: '%' },
    ],
    ...more,
  };
}

export const seriesMaster = (table: Table = seriesTable(), more: Partial<Master> = {}): Master => ({
  id: 'm-series',
  title: 'Coating series',
  owner: 'Mirek Talu',
  purpose: 'series',
  unit: 'mm',
  layers: [layer('print', 'print')],
  symbols: [],
  boards: [],
  tables: [table],
  resources: [],
  description: '',
  ...more,
});

/** The master with other cells in some rows. */
export const withRows = (master: Master, rows: readonly Row[]): Master => ({
  ...master,
  tables: master.tables!.map((table, i) => (i ? table : { ...table, rows: [...rows] })),
});

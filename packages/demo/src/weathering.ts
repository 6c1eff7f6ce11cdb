import { type Cell, type Column, type Command, type Master, type Patch, type Row, type Table, idFrom } from '@inkwell-twin/core';
import { type DemoMaster, tell } from './story';

/** Coatings: how glossy they begin, how much of that they lose a week, how much water they let in. */
const COATINGS = [
  { name: 'Reed oil', short: 'RO', gloss: 42, fades: 0.021, moisture: 11.5, takes: 0.34 },
  { name: 'Fen wax', short: 'FW', gloss: 55, fades: 0.034, moisture: 11.2, takes: 0.22 },
  { name: 'Tarn lacquer', short: 'TL', gloss: 88, fades: 0.012, moisture: 10.8, takes: 0.09 },
  { name: 'Bare larch', short: 'BL', gloss: 9, fades: 0.006, moisture: 12.4, takes: 0.61 },
] as const;
const [PANELS, WEEKS, LATER] = [12, 14, 4] as const;

/** Numbers that only look as if they came by chance: the demo is the same each time. */
function chance(seed: number): () => number {
  // Seeds that lie close by are taken far apart first.
  let state = Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b) >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32 - 0.5;
  };
}
const round = (value: number, digits: number): number => Number(value.toFixed(digits));
const day = (week: number): string => new Date(Date.UTC(2026, 2, 2 + 7 * week)).toISOString().slice(0, 10);

const READINGS = 'readings';
const columns: Column[] = [
  { id: 'reading', name: 'Reading', type: 'text' },
  { id: 'coating', name: 'Coating', type: 'category' },
  { id: 'panel', name: 'Panel', type: 'category' },
  { id: 'week', name: 'Week', type: 'number', decimals: 0 },
  { id: 'day', name: 'Day', type: 'date' },
  { id: 'gloss-new', name: 'Gloss new', type: 'number', unit: 'GU', decimals: 1 },
  { id: 'gloss', name: 'Gloss', type: 'number', unit: 'GU', decimals: 1 },
  { id: 'moisture', name: 'Moisture', type: 'number', unit: '%', decimals: 1 },
  { id: 'cracked', name: 'Cracked', type: 'yes or no' },
  { id: 'kept', name: 'Gloss kept', type: 'number', unit: '%', decimals: 1, formula: '100 * Gloss / Gloss_new' },
];

/** The readings of each panel, week by week. */
function readings(): Row[] {
  const random = chance(20_260_302);
  const rows: Row[] = [];
  for (let week = 0; week < WEEKS; week++)
    for (const { name, short, gloss, fades, moisture, takes } of COATINGS)
      for (let panel = 1; panel <= PANELS; panel++) {
        const own = chance(7 * panel + short.charCodeAt(0));
        const fresh = round(gloss * (1 + 0.06 * own()), 1);
        const label = `${short}-${String(panel).padStart(2, '0')}`;
        const cells: Record<string, Cell> = {
          reading: `${label} w${String(week).padStart(2, '0')}`,
          coating: name,
          panel: label,
          week,
          day: day(week),
          'gloss-new': fresh,
          gloss: week ? round(fresh * Math.exp(-fades * week) * (1 + 0.03 * random()), 1) : fresh,
          moisture: round(moisture + takes * Math.sqrt(week) * (1 + 0.2 * random()) + 0.3 * random(), 1),
          cracked: week > 8 && short !== 'TL' && random() > 0.34,
        };
        rows.push({ id: `${label}-w${week}`, cells });
      }
  return rows;
}

const panels: Table = {
  id: 'panels',
  name: 'Panels',
  key: 'p-panel',
  columns: [
    { id: 'p-panel', name: 'Panel', type: 'text' },
    { id: 'p-coating', name: 'Coating', type: 'category' },
    { id: 'p-coated', name: 'Coated', type: 'date' },
    { id: 'p-coats', name: 'Coats', type: 'number', decimals: 0 },
    { id: 'p-weight', name: 'Weight', type: 'number', unit: 'g', decimals: 0 },
    { id: 'p-note', name: 'Note', type: 'text' },
  ],
  rows: COATINGS.flatMap(({ name, short }, i) =>
    Array.from({ length: PANELS }, (_, at): Row => {
      const label = `${short}-${String(at + 1).padStart(2, '0')}`;
      const weight = 412 + Math.round(40 * chance(31 * at + i)());
      const cells: Record<string, Cell> = {
        'p-panel': label,
        'p-coating': name,
        'p-coats': short === 'BL' ? 0 : 2 + (i % 2),
        'p-weight': weight,
      };
      if (short !== 'BL') cells['p-coated'] = `2026-02-${String(9 + i + (at % 3)).padStart(2, '0')}`;
      if (at === 6 && short === 'FW') cells['p-note'] = 'a knot, upper left';
      return { id: `panel-${label}`, cells };
    }),
  ),
  summaries: [{ id: 'p-heaviest', name: 'Heaviest panel', formula: 'max(Weight)', unit: 'g', decimals: 0 }],
};

const all = readings();
const early = all.filter(({ cells }) => (cells['week'] as number) < WEEKS - LATER);

const first = (): Master => ({
  id: idFrom('coating weathering series'),
  title: 'Coating weathering series',
  owner: 'Mirek Talu',
  purpose: 'series',
  unit: 'mm',
  layers: [{ id: 'print', name: 'Print', colour: '#14213a', visible: true, locked: false, process: 'print' }],
  symbols: [],
  boards: [
    {
      id: 'report',
      name: 'Report',
      width: 210,
      height: 148,
      background: null,
      items: [
        {
          kind: 'chart-frame',
          id: 'gloss-chart',
          name: 'Gloss kept over the weeks',
          layer: 'print',
          table: 'readings',
          form: 'lines',
          across: 'week',
          up: 'kept',
          by: 'coating',
          x: 12,
          y: 12,
          width: 108,
          height: 124,
          size: 3,
        },
        {
          kind: 'table-frame',
          id: 'panel-table',
          name: 'Panels',
          layer: 'print',
          table: 'panels',
          x: 126,
          y: 12,
          width: 74,
          height: 124,
          size: 2.6,
        },
      ],
    },
  ],
  tables: [
    {
      id: READINGS,
      name: 'Readings',
      key: 'reading',
      columns,
      rows: early,
      summaries: [
        { id: 'mean-kept', name: 'Mean gloss kept', formula: 'mean(Gloss_kept)', unit: '%', decimals: 1 },
        { id: 'wettest', name: 'Wettest', formula: 'max(Moisture)', unit: '%', decimals: 1 },
      ],
    },
    panels,
  ],
  resources: [],
  description:
    'Four coatings on twelve larch panels each, on the north rack at Lantern Fen: gloss at 60° and moisture, once a week.',
});

const set = (node: string, attribute: string, value: unknown) => (): Command => ({
  label: attribute,
  patches: [{ op: 'set', node, attribute, value }],
});

/** The weeks that came later, in their order below the others. */
const laterWeeks = (): Command => {
  let after = early.at(-1)!.id;
  const patches = all.slice(early.length).map((node): Patch => {
    const patch: Patch = { op: 'insert', parent: READINGS, list: 'rows', after, node };
    after = node.id;
    return patch;
  });
  return { label: 'later weeks', patches };
};
const spread = (): Command => ({
  label: 'spread',
  patches: [
    {
      op: 'insert',
      parent: READINGS,
      list: 'summaries',
      after: 'wettest',
      node: { id: 'spread', name: 'Spread of gloss kept', formula: 'std(Gloss_kept)', unit: '%', decimals: 2 },
    },
  ],
});

/** Coating weathering series: tables; a copy that is false by one digit, one that both sides changed, and one that is gone. */
export const weathering = (): DemoMaster => ({
  ...tell(first(), 'Mirek Talu', { time: '2026-05-12T08:10:00.000Z', message: 'Ten weeks of readings' }, [
    { time: '2026-06-09T07:45:00.000Z', message: 'Weeks 10 to 13', commands: [laterWeeks] },
    {
      time: '2026-06-10T09:20:00.000Z',
      message: 'FW-07 in week 11 was read twice: the second reading counts',
      commands: [set('FW-07-w11', 'cells.gloss', 36.4)],
    },
    { time: '2026-06-15T13:05:00.000Z', message: 'How far the panels of a coating differ', commands: [spread] },
    {
      time: '2026-06-22T10:30:00.000Z',
      message: 'Panel TL-03 weighed again',
      commands: [set('panel-TL-03', 'cells.p-weight', 418)],
    },
  ]),
  copies: [
    { label: 'workbook for the auditor', target: 'xlsx', options: {}, part: '', all: true, rev: 5 },
    {
      label: 'readings for the laboratory',
      target: 'csv',
      options: { delimiter: 'semicolon', decimal: 'comma' },
      part: 'Readings',
      rev: 4,
      // One digit, in one of 672 rows.
      mishap: {
        kind: 'edit',
        find: /(TL-05 w09;(?:[^;]*;){5}\d)(\d)/,
        replace: (_: string, start: string, digit: string) => `${start}${(Number(digit) + 1) % 10}`,
      },
    },
    { label: 'readings after ten weeks', target: 'json', options: {}, part: 'Readings', rev: 1 },
    {
      label: 'page for the reserve',
      target: 'html',
      options: {},
      part: 'Panels',
      rev: 4,
      mishap: { kind: 'edit', find: 'a knot, upper left', replace: 'a knot, upper right' },
    },
    { label: 'report for the reserve', target: 'pdf', options: {}, part: 'Report', of: 'boards', rev: 5 },
    { label: 'labels of the panels', target: 'csv', options: {}, part: 'Panels', rev: 5, mishap: { kind: 'delete' } },
  ],
});

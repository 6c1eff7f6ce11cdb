import fc from 'fast-check';
import { applyPatches, newMaster, stepOf } from '../src';
import type { Cell, Column, Row, Table } from '../src';
import {
  type Computed,
  addColumn,
  addRows,
  cellInWords,
  computeTable,
  dateFrom,
  dateOf,
  daysOf,
  fillDown,
  namesIn,
  numberFrom,
  pasteInto,
  removeColumn,
  removeRows,
  renameIn,
  rounded,
  setCells,
  setColumn,
  setKey,
} from '../src/tables';
import { seriesMaster, seriesTable } from './series';
import { runs } from './depth';

const column = (id: string, name: string, more: Partial<Column> = {}): Column => ({ id, name, type: 'number', ...more });
const rowsOf = (...cells: Record<string, Cell>[]): Row[] => cells.map((one, i) => ({ id: `r${i + 1}`, cells: one }));
const table = (columns: Column[], rows: Row[], summaries: [name: string, formula: string][] = []): Table => ({
  id: 't1',
  name: 'Trial',
  columns,
  rows,
  summaries: summaries.map(([name, formula], i) => ({ id: `s${i + 1}`, name, formula })),
});
const numbers = (computed: Computed, at: number) => [...computed.columns[at]!.numbers];
const summaries = (computed: Computed) => computed.summaries.map(({ value, problem }) => problem ?? value);

describe('what is computed', () => {
  const two = [column('a', 'Gloss before'), column('b', 'Gloss after')];

  it('is computed row by row from the names of columns, and over whole columns by functions of them', () => {
    const made = computeTable(
      table(
        [
          ...two,
          column('c', 'Loss', { formula: '(Gloss_before - Gloss_after) / mean(Gloss_before)' }),
          column('d', 'Dull', { type: 'yes or no', formula: 'Loss > Limit' }),
        ],
        rowsOf({ a: 80, b: 60 }, { a: 90, b: 89 }, { a: 100 }),
        [
          ['Limit', 'max(Loss) / 2'],
          ['Count', 'count(Gloss_after)'],
          ['Middle', 'median(Gloss_before) + std(Gloss_before)'],
        ],
      ),
    );
    expect(numbers(made, 2).map((value) => Number(value.toFixed(6)))).toEqual([0.222222, 0.011111, NaN]);
    expect(numbers(made, 3)).toEqual([1, 0, NaN]);
    expect(summaries(made)).toEqual([20 / 90 / 2, 2, 100]);
  });

  it.each([
    ['Gloss before * 2', /sign is missing between “Gloss” and “before”.*Gloss_before/],
    ['Glos_before * 2', /no column or summary “Glos_before”.*Gloss_before, Gloss_after, Sum/],
    ['Gloss_before * (', /can’t be read at letter 17/],
    ['Sum + 1', /goes in a circle: Sum → Sum/],
    ['sinus(Gloss_before)', /no function “sinus”.*abs, sqrt/],
    ['round(Gloss_before, 1, 2)', /round takes 1 to 2 values, not 3/],
    ['mean(Gloss_before + 1)', /mean takes the name of a column, as in mean\(Gloss_before\)/],
    ['Gloss_before = 5', /means nothing here/],
    ['[Gloss_before, 2]', /means nothing here/],
    ['f(x) = x', /means nothing here/],
    ['Gloss_before!', /sign “!” means nothing/],
    ['"a".constructor', /means nothing here/],
    ['   ', /nothing to compute/],
  ])('is explained where it can’t be: %s', (formula, words) => {
    const made = computeTable(table([...two, column('c', 'Sum', { formula })], rowsOf({ a: 1, b: 2 })));
    expect(made.columns[2]!.problem).toMatch(words);
    expect(numbers(made, 2)).toEqual([NaN]);
  });

  it('goes in no circle, however long', () => {
    const made = computeTable(
      table(
        [
          ...two,
          column('c', 'First', { formula: 'Second + 1' }),
          column('d', 'Second', { formula: 'Third' }),
          column('e', 'Third', { formula: 'Whole * 2' }),
          column('f', 'Free', { formula: 'Gloss_before' }),
        ],
        rowsOf({ a: 1 }),
        [['Whole', 'sum(First)']],
      ),
    );
    for (const at of [2, 3, 4]) expect(made.columns[at]!.problem).toMatch(/goes in a circle: .*First.*/);
    expect(made.summaries[0]!.problem).toMatch(/circle/);
    expect(numbers(made, 5)).toEqual([1]);
    const chain = Array.from({ length: 900 }, (_, i) => column(`k${i}`, `K${i}`, i ? { formula: `K${i - 1} + 1` } : {}));
    expect(numbers(computeTable(table(chain.reverse(), rowsOf({ k0: 1 }))), 0)).toEqual([900]);
  });

  it('is empty where something is empty, and says in which row it can’t be computed', () => {
    const made = computeTable(
      table(
        [...two, column('c', 'Ratio', { formula: 'Gloss_before / Gloss_after' }), column('d', 'Twice', { formula: '2 * Ratio' })],
        rowsOf({ a: 1, b: 0 }, { a: 4, b: 2 }, { b: 3 }, { a: 'n/a', b: 1 }),
        [['Mean', 'mean(Ratio)']],
      ),
    );
    expect(numbers(made, 3)).toEqual([NaN, 4, NaN, NaN]);
    expect([...made.columns[2]!.problems]).toEqual([
      [0, expect.stringContaining('divides by zero')],
      [3, expect.stringContaining('“Gloss before” says something else here: “n/a” is no number')],
    ]);
    expect(made.columns[3]!.problems.get(0)).toContain('Ratio');
    expect(summaries(made)).toEqual([2]);
  });

  it('tells a column from a function of the same name', () => {
    const made = computeTable(
      table(
        [column('a', 'max'), column('b', 'mean'), column('c', 'Both', { formula: 'max(max_, mean_) + max(max_)' })],
        rowsOf({ a: 1, b: 5 }, { a: 7, b: 2 }),
      ),
    );
    expect(numbers(made, 2)).toEqual([12, 14]);
  });

  it('compares words, takes dates as days, and gives words, dates and yes or no', () => {
    const made = computeTable(
      table(
        [
          column('a', 'Coating', { type: 'category' }),
          column('b', 'Coated', { type: 'date' }),
          column('c', 'Measured', { type: 'date' }),
          column('d', 'Days', { formula: 'Measured - Coated' }),
          column('e', 'Due', { type: 'date', formula: 'Coated + 14' }),
          column('f', 'Bare', { type: 'yes or no', formula: 'Coating == "none"' }),
          column('g', 'Grade', { type: 'text', formula: 'Days > 10 ? "old" : "new"' }),
        ],
        rowsOf({ a: 'none', b: '2026-02-20', c: '2026-03-06' }, { a: 'wax', b: '2026-03-01', c: '2026-03-02T12:00' }),
      ),
    );
    const said = (at: number) => [0, 1].map((row) => cellInWords(made.columns[at]!, row));
    expect([said(3), said(4), said(5), said(6)]).toEqual([
      ['14', '1.5'],
      ['2026-03-06', '2026-03-15'],
      ['yes', 'no'],
      ['old', 'new'],
    ]);
  });

  it('after any edits is the same as computed anew', () => {
    const cell = fc.oneof(fc.integer({ min: -50, max: 50 }), fc.constant(undefined), fc.constant('odd'));
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(23), fc.nat(8), cell), { maxLength: 12 }), fc.boolean(), (edits, removes) => {
        let master = seriesMaster();
        let before = computeTable(master.tables![0]!);
        const step = (command: { patches: never[] | ReturnType<typeof setCells>['patches'] }) => {
          if (command.patches.length) master = applyPatches(master, command.patches).master;
          before = computeTable(master.tables![0]!, before);
          const anew = computeTable(master.tables![0]!);
          const plain = ({ columns, summaries: all }: Computed) => [
            columns.map(({ numbers: values, words, problems, problem }) => [
              [...values],
              words?.some(Boolean) ? words : null,
              [...problems].sort(),
              problem,
            ]),
            all,
          ];
          expect(plain(before)).toEqual(plain(anew));
        };
        for (const [row, at, value] of edits) step(setCells(master.tables![0]!, [{ row, column: at, cell: value }]));
        if (removes) step(removeRows(master.tables![0]!, [3, 1]));
        step(renameIn(master.tables![0]!, 'c4', 'Gloss at first (60°)'));
      }),
      { numRuns: runs(40) },
    );
  });

  it('does not depend on the order in which large and small numbers come', () => {
    const made = (values: number[]) =>
      summaries(
        computeTable(
          table(
            [column('a', 'A')],
            values.map((a, i) => ({ id: `r${i}`, cells: { a } })),
            [
              ['Sum', 'sum(A)'],
              ['Mean', 'mean(A)'],
            ],
          ),
        ),
      );
    expect(made([1e16, 1, -1e16, 1])).toEqual([2, 0.5]);
    expect(made([1, 1, 1e16, -1e16])).toEqual([2, 0.5]);
  });
});

describe('numbers and dates in words', () => {
  it.each([
    ['1.5', '.', 1.5],
    ['1,5', ',', 1.5],
    ['1.234,5', ',', 1234.5],
    ['1,234.5', '.', 1234.5],
    ['12 345,6', ',', 12345.6],
    ['−3', '.', -3],
    ['1e400', '.', NaN],
    ['0x10', '.', NaN],
    ['1,5', '.', NaN],
    ['--1', '.', NaN],
    ['9007199254740993', '.', NaN],
    ['12.345.678.901.234.567.890', ',', NaN],
    ['9007199254740992', '.', 9007199254740992],
    // As a number of that size is written: it holds no digits more.
    ['1152921504606847000', '.', 2 ** 60],
  ] as const)('%s with “%s” is %s', (text, decimal, value) => expect(numberFrom(text, decimal)).toBe(value));

  it.each([
    ['03/04/2026', 'day first', '2026-04-03'],
    ['03/04/2026', 'month first', '2026-03-04'],
    ['31.12.26', 'day first', '2026-12-31'],
    ['2026-02-30', 'year first', ''],
    ['2026/2/3 9:05', 'year first', '2026-02-03T09:05'],
    ['13/13/2026', 'day first', ''],
  ] as const)('%s, %s, is %s', (text, order, iso) => expect(dateFrom(text, order)).toBe(iso));

  it('round as people do, halves away from zero', () => {
    expect([rounded(1.005, 2), rounded(-2.5, 0), rounded(0.1 + 0.2, 1), rounded(1e20, 3), rounded(5e-7, 2)]).toEqual([
      1.01, -3, 0.3, 1e20, 0,
    ]);
    fc.assert(
      fc.property(fc.date({ min: new Date('0001-01-01'), max: new Date('9999-12-30'), noInvalidDate: true }), (date) => {
        const iso = date.toISOString().slice(0, 10);
        expect(dateOf(daysOf(iso))).toBe(iso);
      }),
    );
  });
});

describe('edits of a table', () => {
  const master = seriesMaster();
  const first = master.tables![0]!;
  const after = (command: { label: string; patches: ReturnType<typeof setCells>['patches'] }, from = master) => {
    const { master: now, step } = stepOf(from, command.label, command.patches);
    expect(applyPatches(now, step.inverse).master).toEqual(from);
    return now.tables![0]!;
  };

  it('say in words what became of what, and can be taken back', () => {
    const change = setCells(first, [{ row: 2, column: 3, cell: 71.5 }]);
    expect(change.label).toBe('Panels, P-003: Gloss before now 71.5');
    expect(after(change).rows[2]!.cells['c4']).toBe(71.5);
    expect(setCells(first, [{ row: 2, column: 6, cell: 1 }]).patches).toEqual([]);
    expect(after(removeRows(first, [0, 5])).rows).toHaveLength(22);
    expect(after(addRows(first, 3, [{ c1: 'P-100' }, {}])).rows[4]!.cells).toEqual({ c1: 'P-100' });
    expect(after(setKey(first, null)).key).toBeUndefined();
  });

  it('rename columns together with the formulas that name them', () => {
    const now = after(renameIn(first, 'c5', 'Gloss now'));
    expect(now.columns[6]!.formula).toBe('100 * (Gloss_before - Gloss_now) / Gloss_before');
    expect(now.summaries[1]!.formula).toBe('max(Gloss_now) - min(Gloss_now)');
    expect(computeTable(now).columns.map(({ problem }) => problem)).toEqual(first.columns.map(() => null));
    const same = after(renameIn(now, 'c4', 'Gloss now'), { ...master, tables: [now] });
    expect([...namesIn(same).columns.keys()].slice(3, 5)).toEqual(['Gloss_now', 'Gloss_now_2']);
    expect(same.columns[6]!.formula).toBe('100 * (Gloss_now - Gloss_now_2) / Gloss_now');
  });

  it('paste what a clipboard holds, over what is there and beyond its end', () => {
    const now = after(
      pasteInto(first, 22, 2, [
        ['3.4.2026', '61,5', '60', 'yes'],
        ['2026-05-01', 'n/a', '', 'no', 'ignored'],
        ['', '1'],
      ]),
    );
    expect(now.rows).toHaveLength(25);
    expect(now.rows[22]!.cells).toMatchObject({ c3: '3.4.2026', c4: 61.5, c5: 60, c6: true });
    expect(now.rows[23]!.cells).toMatchObject({ c3: '2026-05-01', c4: 'n/a', c6: false });
    expect(now.rows[24]!.cells).toEqual({ c4: 1 });
  });

  it('fill downwards: the same again, or on in steps', () => {
    const two = after(
      setCells(first, [
        { row: 0, column: 3, cell: 10 },
        { row: 1, column: 3, cell: 10.5 },
      ]),
    );
    const now = after(fillDown(two, [0, 4], [3, 5]), { ...master, tables: [two] });
    expect(now.rows.slice(0, 6).map(({ cells }) => cells['c4'])).toEqual([10, 10.5, 11, 11.5, 12, first.rows[5]!.cells['c4']]);
    expect(now.rows.slice(0, 5).map(({ cells }) => cells['c6'])).toEqual([true, true, true, true, true]);
  });

  it('add and remove columns, and change their kind without losing a word', () => {
    const wider = after(addColumn(first, 3, { name: 'Weight', type: 'number', unit: 'g' }));
    expect(wider.columns[4]).toMatchObject({ name: 'Weight', unit: 'g' });
    const less = after(removeColumn(first, 0));
    expect([less.key, less.rows.some(({ cells }) => 'c1' in cells)]).toEqual([undefined, false]);
    const words = after(setColumn(first, 'c4', { type: 'text' }));
    expect(words.rows[0]!.cells['c4']).toBe('80');
    const back = after(setColumn(words, 'c4', { type: 'number' }), { ...master, tables: [words] });
    expect(back.rows.map(({ cells }) => cells['c4'])).toEqual(first.rows.map(({ cells }) => cells['c4']));
    const computed = after(setColumn(first, 'c4', { formula: 'Gloss_after + 1' }));
    expect(computed.rows.every(({ cells }) => cells['c4'] === undefined)).toBe(true);
  });

  it('keep to what a table can be, and a master never runs out of parts', () => {
    expect(() => applyPatches(master, [{ op: 'set', node: 'r1', attribute: 'cells.c4', value: NaN }])).toThrow(/finite/);
    expect(() => applyPatches(master, [{ op: 'set', node: 'r1', attribute: 'cells.c4', value: { a: 1 } }])).toThrow(
      /finite numbers/,
    );
    expect(() => applyPatches(master, [{ op: 'set', node: 't1', attribute: 'rows', value: [] }])).toThrow(/can't be set/);
    expect(() => applyPatches(master, [{ op: 'remove', parent: master.id, list: 'tables', node: 't1' }])).toThrow(
      /last of the tables/,
    );
    const board = newMaster('m2', 'Panel', '', 'panel');
    const { master: both, inverse } = applyPatches(board, [
      { op: 'insert', parent: 'm2', list: 'tables', after: null, node: seriesTable() },
    ]);
    expect(both.tables).toHaveLength(1);
    expect(applyPatches(both, [{ op: 'remove', parent: 'm2', list: 'boards', node: 'board-1' }]).master.boards).toEqual([]);
    expect(applyPatches(both, inverse).master.tables).toEqual([]);
    expect(newMaster('m3', 'Series', '', 'series')).toMatchObject({
      boards: [],
      purpose: 'series',
      tables: [{ name: 'Measurements' }],
    });
  });
});

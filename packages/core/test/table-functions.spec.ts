import fc from 'fast-check';
import { computeTable } from '../src/tables';
import type { Table } from '../src/document/tables/schema';
import { runs } from './depth';

/** A table of parts with one formula. @returns what it computes, row by row; undefined where it can’t */
function computed(formula: string, type: 'number' | 'text' | 'date' = 'number'): (number | string | undefined)[] {
  const table = {
    id: 't',
    name: 'Parts',
    columns: [
      { id: 'a', name: 'Part', type: 'text' },
      { id: 'b', name: 'Length', type: 'number' },
      { id: 'c', name: 'Wood', type: 'text' },
      { id: 'd', name: 'Date', type: 'date' },
      { id: 'f', name: 'Out', type, formula },
    ],
    rows: [
      { id: '1', cells: { a: 'Ré-7', b: 12.345, c: 'oak', d: '2026-02-28' } },
      { id: '2', cells: { a: 'Rail 40', b: 0, c: 'ash', d: '2026-11-29' } },
      { id: '3', cells: { a: '🌲 x', b: 3, c: 'oak', d: '1969-12-31' } },
    ],
    summaries: [],
  } as unknown as Table;
  const { columns } = computeTable(table);
  const out = columns[4]!;
  if (out.problem) throw new Error(out.problem);
  return table.rows.map((_, i) => (out.problems.has(i) ? undefined : type === 'text' ? out.words![i] : out.numbers[i]));
}

describe('functions of words and dates', () => {
  it.each([
    ['left(Part, 2)', ['Ré', 'Ra', '🌲 ']],
    ['right(Part, 2)', ['-7', '40', ' x']],
    ['mid(Part, 2, 2)', ['é-', 'ai', ' x']],
    ['upper(Part)', ['RÉ-7', 'RAIL 40', '🌲 X']],
    ['concat(Wood, " ", Length)', ['oak 12.345', 'ash 0', 'oak 3']],
    ['fixed(Length, 1)', ['12.3', '0.0', '3.0']],
    ['replace(Wood, "a", "$&")', ['o$&k', '$&sh', 'o$&k']],
    ['trim(concat("  a   b", " "))', ['a b', 'a b', 'a b']],
    ['first_where(Part, Wood, Wood)', ['Ré-7', 'Rail 40', 'Ré-7']],
  ])('%s', (formula, expected) => expect(computed(formula, 'text')).toEqual(expected));

  it.each([
    ['length(Part)', [4, 7, 3]],
    ['position("a", Wood)', [2, 1, 2]],
    ['position("x", Part)', [undefined, undefined, 3]],
    ['otherwise(position("x", Part), 0)', [0, 0, 3]],
    ['otherwise(1 / Length, -1)', [1 / 12.345, -1, 1 / 3]],
    ['number(right(Part, 1))', [7, 0, undefined]],
    ['year(Date)', [2026, 2026, 1969]],
    ['month(Date) * 100 + day(Date)', [228, 1129, 1231]],
    ['weekday(Date)', [6, 7, 3]],
    ['floor(Length, 1) + ceil(Length, 1)', [24.7, 0, 6]],
    ['fix(-Length, 2)', [-12.34, 0, -3]],
    ['sum_where(Length, Wood, Wood)', [15.345, 0, 15.345]],
    ['count_where(Length, "> 2")', [2, 2, 2]],
    ['count_where(Wood, "oak", Length, "<5")', [1, 1, 1]],
    ['mean_where(Length, Wood, "elm")', [undefined, undefined, undefined]],
  ])('%s', (formula, expected) =>
    computed(formula).forEach((value, i) =>
      expected[i] === undefined ? expect(value).toBeUndefined() : expect(value).toBeCloseTo(expected[i]!, 12),
    ),
  );

  it('a condition that has nothing to say leaves its cell empty, which is no error', () => {
    expect(computed('Length > 0 ? 1 / Length : ""')).toEqual([1 / 12.345, NaN, 1 / 3]);
  });

  it('dates count on beyond the ends of months', () => {
    expect(computed('date(year(Date), month(Date) + 1, 31)', 'date')).toEqual(
      ['2026-03-31', '2026-12-31', '1970-01-31'].map((date) => Date.parse(date) / 86_400_000),
    );
  });

  it('say in words what they take', () => {
    expect(() => computed('sum_where(Length, Wood)')).toThrow(
      'sum_where takes a column, then pairs of a column and what it is to say, as in sum_where(cost, kind, "A").',
    );
    expect(() => computed('left(Part, 1, 2)')).toThrow('left takes 1 to 2 values, not 3.');
    expect(() => computed('first_where(Out, Wood, 1)')).toThrow('It goes in a circle');
    expect(computed('concat(Part, 1 / Length)', 'text')).toEqual([expect.any(String), undefined, expect.any(String)]);
  });

  it('of rows where a column says so agree with a look at all rows', () => {
    const row = fc.record({ b: fc.integer({ min: -5, max: 5 }), c: fc.constantFrom('oak', 'ash', '') });
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 12 }), fc.integer({ min: -5, max: 5 }), (rows, least) => {
        const table = {
          columns: [
            { id: 'b', name: 'B', type: 'number' },
            { id: 'c', name: 'C', type: 'text' },
            { id: 'f', name: 'F', type: 'number', formula: `sum_where(B, C, C, B, ">=${least}")` },
          ],
          rows: rows.map((cells, i) => ({ id: String(i), cells })),
          summaries: [],
        } as unknown as Table;
        const out = computeTable(table).columns[2]!;
        rows.forEach(({ c }, i) => {
          const expected = rows.reduce((sum, one) => sum + (one.c === c && one.b >= least ? one.b : 0), 0);
          // A row with an empty cell that the formula names is not computed.
          if (c) expect(out.numbers[i]).toBe(expected);
          else expect(out.numbers[i]).toBeNaN();
        });
      }),
      { numRuns: runs(60) },
    );
  });
});

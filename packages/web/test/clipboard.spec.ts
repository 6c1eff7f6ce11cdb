import fc from 'fast-check';
import { computeTable } from '@inkwell-twin/core/tables';
import { cellsOfClipboard, clipboardOf } from '../src/app/content/grid/clipboard';

const columns = [
  { id: 'a', name: 'A', type: 'text' as const },
  { id: 'b', name: 'B', type: 'number' as const, decimals: 1 },
];

describe('cells on a clipboard', () => {
  it('come back as they went, whatever stands in them, numbers with all their digits', () => {
    const word = fc.string({ unit: fc.constantFrom('a', '"', '\t', '\n', ' ', '=', ';'), minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(word, fc.double({ noNaN: true, noDefaultInfinity: true })), { minLength: 1, maxLength: 5 }),
        (all) => {
          const rows = all.map(([a, b], i) => ({ id: `r${i}`, cells: { a, b: b + 0 } }));
          const { columns: values } = computeTable({ id: 't', name: 'T', columns, rows, summaries: [] });
          const text = clipboardOf(values, [0, rows.length - 1], [0, 1]);
          expect(cellsOfClipboard(text)).toEqual(rows.map(({ cells }) => [cells.a, String(cells.b)]));
        },
      ),
    );
  });

  it('of spreadsheets end in an end of a line, and may have ends of two letters', () => {
    expect(cellsOfClipboard('1\t"a ""b"""\r\n\t2\r\n')).toEqual([
      ['1', 'a "b"'],
      ['', '2'],
    ]);
  });
});

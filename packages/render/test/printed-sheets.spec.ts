import { readFileSync, writeFileSync } from 'node:fs';
import fc from 'fast-check';
import { type Board, type Master, recipeOf } from '@inkwell-twin/core';
import { masterWith, rectangle, text, filled } from '../../core/test/build';
import { judgedBy } from '../../core/test/judged-by';
import { runs } from '../../core/test/depth';
import { richMaster } from '../../core/test/rich';
import { changed, inFolder } from './faults/qpdf';
import { copyOf, servicesWith } from './workshop';

const services = servicesWith(new Map());
const WHOLE = { of: 'master' } as const;

/** Boards with a word each, on a ground of their own, with something that sticks out over their edge. */
function booklet(count: number, width = 105, height = 148): Master {
  const boards = Array.from({ length: count }, (_, i): Board => ({
    id: `page${i + 1}`,
    name: `Page ${i + 1}`,
    width,
    height,
    background: '#f7f0e2',
    items: [
      rectangle(`out${i}`, width - 5, 40, { width: 40, height: 20, style: filled('#17796a') }),
      text(`word${i}`, `Leaf${i + 1}`, { x: 10, y: height - 30, size: 9 }),
    ],
  }));
  return masterWith([], { boards });
}

/** What stands on each page of a file, from the left. */
const wordsOf = (bytes: Uint8Array): string[][] =>
  inFolder((at, run) => {
    writeFileSync(at('in.pdf'), bytes);
    return run('pdftotext', '-layout', 'in.pdf', '-')
      .split('\f')
      .map((page) => page.split(/\s+/).filter(Boolean))
      .filter((words) => words.length);
  });

/** Samples of a page in grey, seen by poppler: rows from the top. @param dpi dots an inch */
const seen = (bytes: Uint8Array, dpi: number): { readonly width: number; readonly rows: readonly Uint8Array[] } =>
  inFolder((at, run) => {
    writeFileSync(at('in.pdf'), bytes);
    run('pdftoppm', '-gray', '-r', String(dpi), '-singlefile', 'in.pdf', 'out');
    const file = readFileSync(at('out.pgm'));
    const [head, width, height] = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(file.toString('latin1', 0, 40))!;
    const from = head.length;
    return {
      width: Number(width),
      rows: Array.from({ length: Number(height) }, (_, y) =>
        file.subarray(from + y * Number(width), from + (y + 1) * Number(width)),
      ),
    };
  });

describe('Pages for a printer', () => {
  judgedBy('pdftotext', 'qpdf').it('have marks outside of what is kept, and boxes that say where they are cut', async () => {
    const { bytes, check } = await copyOf(booklet(1), services, 'pdf', { bleed: 3, marks: 'cut and register' });
    expect((await check(bytes)).verdict).toBe('in step');
    const boxes = inFolder((at, run) => {
      writeFileSync(at('in.pdf'), bytes);
      return run('pdfinfo', '-box', 'in.pdf');
    });
    const box = (name: string): number[] =>
      boxes
        .match(new RegExp(`${name}:\\s+([\\d. ]+)`))![1]!
        .trim()
        .split(/\s+/)
        .map(Number);
    const mm = (...sides: number[]): number[] => sides.map((side) => expect.closeTo((side * 72) / 25.4, 1) as number);
    expect(box('MediaBox')).toEqual(mm(0, 0, 105 + 26, 148 + 26));
    expect(box('BleedBox')).toEqual(mm(10, 10, 10 + 111, 10 + 154));
    expect(box('TrimBox')).toEqual(mm(13, 13, 13 + 105, 13 + 148));
    // 10 dots a mm: what sticks out ends with what is kept, and beyond that are marks on white.
    const { width, rows } = seen(bytes, 254);
    const at = (x: number, y: number): number => rows[rows.length - 1 - Math.round(y * 10)]![Math.round(x * 10)]!;
    expect(at(13 + 105 + 2.5, 13 + 50)).toBeLessThan(130);
    expect(at(13 + 105 + 3.5, 13 + 50)).toBe(255);
    const column = rows.slice(0, 95).filter((row) => row.subarray(125, 136).some((value) => value < 128));
    expect(column.length).toBeGreaterThan(40);
    expect(rows.slice(93, 100).every((row) => row.subarray(0, 99).every((value) => value === 255) && row.length === width)).toBe(
      true,
    );
  });

  judgedBy('qpdf').it('with a mark that was moved are not in step', async () => {
    const { bytes, check } = await copyOf(booklet(1), services, 'pdf', { bleed: 3, marks: 'cut' });
    const moved = changed(bytes, (opened) => opened.replace(/\n0 -4 m/, '\n0.4 -4 m'));
    expect(moved).toBeDefined();
    const found = await check(moved!);
    expect(found.verdict).toBe('touched');
    expect(found.differences.length).toBeGreaterThan(0);
  });

  judgedBy('pdftotext').it('lie beside each other as they are folded, and as they are read', async () => {
    const folded = await copyOf(booklet(6), services, 'pdf', { sheets: 'folded', bleed: 3, marks: 'cut' }, WHOLE);
    // Two sheets, folded into each other: eight pages of which the last two are empty.
    expect(wordsOf(folded.bytes)).toEqual([['Leaf1'], ['Leaf2'], ['Leaf6', 'Leaf3'], ['Leaf4', 'Leaf5']]);
    expect((await folded.check(folded.bytes)).verdict).toBe('in step');
    const read = await copyOf(booklet(3), services, 'pdf', { sheets: 'spreads' }, WHOLE);
    expect(wordsOf(read.bytes)).toEqual([['Leaf1', 'Leaf2'], ['Leaf3']]);
  });

  judgedBy('pdftotext').it('fill a paper, as many as fit or the same again and again', async () => {
    const cards = booklet(12, 85, 55);
    const gathered = await copyOf(cards, services, 'pdf', { sheets: 'gathered', gap: 2, onto: 'A4' }, WHOLE);
    expect(wordsOf(gathered.bytes).map(({ length }) => length)).toEqual([9, 3]);
    const repeated = await copyOf(cards, services, 'pdf', { sheets: 'repeated', onto: 'SRA3', marks: 'cut', bleed: 2, gap: 4 });
    const [words] = wordsOf(repeated.bytes);
    expect([new Set(words), words!.length]).toEqual([new Set(['Leaf1']), 21]);
    expect((await repeated.check(repeated.bytes)).verdict).toBe('in step');
    await expect(copyOf(booklet(1, 300, 400), services, 'pdf', { sheets: 'repeated' })).rejects.toMatchObject({
      code: 'option-invalid',
      message: expect.stringContaining('“Page 1” is 300 × 400 mm and does not fit onto paper of 210 × 297 mm') as string,
    });
  });

  test('are told in the report, and only once; a text goes onto sheets, too', async () => {
    const { report } = await copyOf(booklet(6), services, 'pdf', { sheets: 'folded', marks: 'cut' }, WHOLE);
    expect(report.objects).toBe(12);
    expect(report.lines.filter(({ feature }) => feature === 'sheets')).toMatchObject([{ outcome: 'restated', count: 4 }]);
    expect(report.lines.flatMap(({ objects }) => objects).filter((id) => id.startsWith('sheet-m'))).toEqual([]);
    const guide: Master = {
      ...masterWith([], { boards: [] }),
      texts: [
        {
          id: 'guide',
          name: 'Guide',
          language: 'en',
          blocks: Array.from({ length: 60 }, (_, i) => ({
            id: `b${i}`,
            block: 'words' as const,
            role: 'body' as const,
            spans: [{ text: 'Herons nest in the tall reed at the north pool, from early spring on. '.repeat(6) }],
          })),
        },
      ],
    };
    const plain = await copyOf(guide, services, 'pdf', { paper: 'A5' }, { of: 'texts', ids: [] });
    const folded = await copyOf(guide, services, 'pdf', { paper: 'A5', sheets: 'folded' }, { of: 'texts', ids: [] });
    expect(folded.back.leaves).toHaveLength(2 * Math.ceil(plain.back.leaves.length / 4));
    expect((await folded.check(folded.bytes)).verdict).toBe('in step');
  });

  test('say what their boards say, whatever is on them', async () => {
    await fc.assert(
      fc.asyncProperty(
        richMaster,
        fc.constantFrom(
          { marks: 'cut', bleed: 3 },
          { sheets: 'spreads', marks: 'cut and register' },
          { sheets: 'repeated', onto: 'A2', gap: 3 },
        ),
        async (master, options) => {
          const fits = master.boards.every(({ width, height }) => width < 380 && height < 380);
          fc.pre(fits || !('onto' in options));
          const { defects, bytes, check } = await copyOf(master, services, 'pdf', options, WHOLE);
          expect(defects.map(({ kind, what, master, copy }) => [kind, what, master, copy])).toEqual([]);
          expect((await check(bytes)).verdict).toBe('in step');
        },
      ),
      { numRuns: runs(25) },
    );
  });
});

test('Options from before there were sheets make what they made', () => {
  expect(recipeOf('pdf', { bleed: 3 }).options).toMatchObject({ bleed: 3, sheets: 'each', marks: 'none' });
});

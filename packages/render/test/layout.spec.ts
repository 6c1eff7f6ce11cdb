import fc from 'fast-check';
import { type Item, type Prose, measureBy, pagesOf } from '@inkwell-twin/core';
import { type Flowed, type Frame, flowText } from '../../core/src/evaluate/texts/layout/flow';
import { linesOf } from '../../core/src/evaluate/texts/layout/lines';
import { LOOKS, SETTING, faceFor } from '../../core/src/evaluate/texts/layout/looks';
import { shippedFonts } from '../src';
import { anyText, guide, masterOf } from './prose';
import { runs } from '../../core/test/depth';

const measure = measureBy(shippedFonts());
const setting = { type: SETTING, measure, layer: 'l', shapeOf: () => 0.5 };
const line = { look: LOOKS.body, type: SETTING, measure, notes: new Map() };
const words = (text: string, rest: object = {}) =>
  ({
    id: text.slice(0, 8).replace(/\W/g, '-') || 'x',
    block: 'words',
    role: 'body',
    spans: [{ text }],
    ...rest,
  }) as Prose['blocks'][number];
const LONG = 'Herons stand at the north pool before nine in the morning, and otters come when nobody waits for them. ';

type TextItem = Extract<Item, { kind: 'text' }>;
const textsIn = (items: readonly Item[]): TextItem[] => items.filter((item): item is TextItem => item.kind === 'text');
/** The baselines of a frame, from above, with their words. */
const rowsOf = (items: readonly Item[]): [y: number, words: string][] => {
  const rows = new Map<number, string>();
  for (const { y, text } of textsIn(items)) {
    const key = Math.round(y * 100) / 100;
    rows.set(key, `${rows.get(key) ?? ''}${text} `);
  }
  return [...rows].sort((a, b) => b[0] - a[0]).map(([y, text]) => [y, text.trim()]);
};
function flow(blocks: Prose['blocks'], sizes: readonly (readonly [number, number])[], endless = false): Flowed {
  function* frames(): Generator<Frame> {
    for (const [width, height] of sizes) yield { left: 0, top: height, width, height };
    const [width, height] = sizes.at(-1) ?? [1, 1];
    while (endless) yield { left: 0, top: height, width, height };
  }
  return flowText(blocks, frames(), setting);
}

describe('paragraphs are broken into lines', () => {
  it.each([20, 40, 80, 160])('none is wider than %i mm, and every word is on one of them', (width) => {
    const lines = linesOf([{ text: LONG.repeat(3) }], width, false, line);
    for (const one of lines) expect(one.width).toBeLessThanOrEqual(width + 1e-6);
    expect(lines.map(({ pieces }) => pieces.map(({ text }) => text).join('')).join(' ')).toBe(LONG.repeat(3).trim());
    // Each is as full as it can be: the next word would not have fitted.
    lines.slice(0, -1).forEach((one, i) => {
      const next = lines[i + 1]!.pieces[0]!.text.split(' ')[0]!;
      expect(one.width + measure(SETTING.text, ` ${next}`) * SETTING.size).toBeGreaterThan(width - 1e-6);
    });
  });

  it('spread to the width but for the last; ends of lines end them', () => {
    const lines = linesOf([{ text: `${LONG}\nshort` }], 60, true, line);
    const spread = lines.filter(({ last }) => !last);
    expect(spread.length).toBeGreaterThan(1);
    for (const one of spread) expect(one.width).toBeCloseTo(60, 6);
    expect(lines.at(-1)!.width).toBeLessThan(20);
  });

  it('goes on where it was left: the rest of the words in another width', () => {
    const lines = linesOf([{ text: LONG }], 50, false, line);
    const rest = linesOf([{ text: LONG }], 90, false, line, lines[2]!.from);
    const said = [...lines.slice(0, 2), ...rest].map(({ pieces }) => pieces.map(({ text }) => text).join('')).join(' ');
    expect(said).toBe(LONG.trim());
  });

  it('a word that is wider than a line is parted; looks part a line into pieces', () => {
    const lines = linesOf([{ text: 'Wasserstandsanzeigerhäuschen' }], 20, false, line);
    expect(lines.length).toBeGreaterThan(1);
    expect(lines.map(({ pieces }) => pieces[0]!.text).join('')).toBe('Wasserstandsanzeigerhäuschen');
    const [mixed] = linesOf(
      [{ text: 'one ' }, { text: 'two', marks: ['bold'] }, { text: ' H' }, { text: '2', marks: ['lowered'] }],
      80,
      false,
      line,
    );
    expect(mixed!.pieces.map(({ text, font, up }) => [text, font, Math.sign(up)])).toEqual([
      ['one', 'Source Serif 4', 0],
      ['two', 'Source Serif 4 Bold', 0],
      ['H', 'Source Serif 4', 0],
      ['2', 'Source Serif 4', -1],
    ]);
  });

  it('faces are those of the family; slanted in what is slanted stands upright', () => {
    expect(faceFor('Source Serif 4', ['bold', 'italic'], false)).toBe('Source Serif 4 Bold Italic');
    expect(faceFor('Source Serif 4', ['italic'], true)).toBe('Source Serif 4');
    expect(faceFor('Oswald', ['italic'], false)).toBe('Oswald');
  });
});

describe('frames are filled', () => {
  it('nothing stands outside of them', async () => {
    await fc.assert(
      fc.asyncProperty(
        anyText(['a']),
        fc.integer({ min: 60, max: 170 }),
        fc.integer({ min: 60, max: 250 }),
        async ({ blocks }, width, height) => {
          const { filled } = flow(blocks, [[width, height]], true);
          for (const { items } of filled)
            for (const item of items) {
              const ys =
                item.kind === 'text'
                  ? [item.y]
                  : item.kind === 'picture'
                    ? [item.y, item.y + item.height]
                    : item.kind === 'polyline'
                      ? item.points.map(([, y]) => y)
                      : [];
              for (const y of ys) {
                expect(y).toBeGreaterThan(-2);
                expect(y).toBeLessThan(height + 0.5);
              }
            }
        },
      ),
      { numRuns: runs(80) },
    );
  });

  it('a heading stands with what it is one of', () => {
    const height = 60;
    for (let before = 1; before < 12; before++) {
      const blocks = [
        ...Array.from({ length: before }, (_, i) => words(`Line ${i}`)),
        words('Heading', { role: 'heading 2' }),
        words(LONG.repeat(4)),
      ];
      const { filled } = flow(blocks, [[100, height]], true);
      for (const { items } of filled) {
        const rows = rowsOf(items);
        expect(rows.at(-1)![1]).not.toBe('Heading');
      }
    }
  });

  it('no line of a paragraph is left alone at the foot or the head of a frame', () => {
    for (let height = 30; height < 80; height += 3) {
      const { filled } = flow([words('Above'), words(LONG.repeat(6))], [[80, height]], true);
      const counts = filled.map(({ items }) => rowsOf(items).filter(([, said]) => said !== 'Above').length);
      expect(counts.filter((count) => count === 1)).toEqual([]);
    }
  });

  it('a table that goes on says its heading again, and each row once', () => {
    const rows = Array.from({ length: 30 }, (_, i) => [[{ text: `Row ${i}` }], [{ text: `${i}` }]]);
    const table = {
      id: 't',
      block: 'table',
      head: true,
      caption: [{ text: 'Of rows' }],
      grid: [[[{ text: 'What' }], [{ text: 'Number' }]], ...rows],
    } as Prose['blocks'][number];
    const { filled } = flow(
      [table],
      [
        [100, 70],
        [60, 70],
      ],
      true,
    );
    const said = filled.map(({ items }) => textsIn(items).map(({ text }) => text));
    expect(said.length).toBeGreaterThan(2);
    for (const one of said) expect(one.filter((text) => text === 'What').length).toBe(1);
    const all = said.flat().filter((text) => /^Row/.test(text));
    expect(all).toEqual(rows.map((row) => row[0]![0]!.text));
    expect(said.flat().filter((text) => text === 'Of rows').length).toBe(1);
  });

  it('a new page is a new frame, notes stand at the end with their numbers, and what finds no place is counted', () => {
    const note = { note: [{ text: 'Counted twice' }] };
    const blocks = [
      words('One', { spans: [{ text: 'One' }, note] }),
      { id: 'b', block: 'break', of: 'page' } as Prose['blocks'][number],
      words('Two'),
    ];
    const { filled, left } = flow(blocks, [[80, 60]], true);
    expect(filled.map(({ items }) => rowsOf(items).map(([, said]) => said))).toEqual([
      ['1', 'One'],
      ['Two', '1 Counted twice'],
    ]);
    expect(left).toBe(0);
    expect(flow([words(LONG.repeat(40))], [[40, 20]]).left).toBeGreaterThan(20);
    expect(flow([words('a')], []).left).toBe(1);
  });

  it('a picture that is too high for a frame is made smaller, and keeps its shape', () => {
    const picture = {
      id: 'p',
      block: 'picture',
      picture: 'x',
      alt: '',
      width: 150,
      caption: [{ text: 'Below' }],
    } as Prose['blocks'][number];
    const { filled } = flow([picture], [[100, 40]], true);
    const [shown] = filled.flatMap(({ items }) =>
      items.filter((item): item is Extract<Item, { kind: 'picture' }> => item.kind === 'picture'),
    );
    expect(shown!.height).toBeLessThan(40);
    expect(shown!.height / shown!.width).toBeCloseTo(0.5, 6);
    expect(textsIn(filled[0]!.items).map(({ text }) => text)).toEqual(['Below']);
  });
});

it('pages have their size and their numbers, and the objects on them are the blocks that they show', async () => {
  const text = await guide();
  const master = await masterOf(text);
  const { boards } = pagesOf(master, text, { width: 148, height: 210, margin: 15, size: 3.7 }, measure);
  expect(boards.length).toBeGreaterThan(1);
  const ids = new Set(text.blocks.map(({ id }) => id));
  boards.forEach(({ name, width, items }, i) => {
    expect([name, width]).toEqual([`Round the fen ${i + 1}`, 148]);
    expect(textsIn(items).find(({ id }) => id === 'page-number')!.text).toBe(String(i + 1));
    for (const { id } of items) expect(ids.has(id) || /^(page-number|notes|note-\d+)$/.test(id)).toBe(true);
  });
});

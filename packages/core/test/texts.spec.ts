// How texts are set: spaces between letters, boxes, parts that look otherwise.
import fc from 'fast-check';
import {
  type Item,
  Master,
  type Measure,
  type Recipe,
  applyPatches,
  findNode,
  itemKind,
  setAttribute,
  setPart,
  withRun,
} from '../src';
import { masterWith, text } from './build';
import { compare, deriveFlat, services, parseOptions, targetById } from './flat';
import { cpuTime } from './cpu-time';

type TextItem = Item & { kind: 'text' };
/** Each letter half an em wide. */
const halves: Measure = (_font, words) => words.length / 2;
const linesOf = (item: Partial<TextItem>, measure = halves) =>
  itemKind({ kind: 'text' } as Item).lines!({ ...(text('t', '') as TextItem), x: 0, y: 0, size: 10, ...item } as never, measure);
const said = (item: Partial<TextItem>) =>
  linesOf(item).map(({ text: words, at }) => [words, ...at.map((v) => Number(v.toFixed(6)))]);

describe('a text in a box', () => {
  it('breaks at blanks where the next word would stand out, and keeps lines that were broken by hand', () =>
    expect(said({ text: 'one two three\nfour', width: 40 })).toEqual([
      ['one two', 0, 0],
      ['three', 0, -12.5],
      ['four', 0, -25],
    ]));
  it('lets a word that is wider stand out, and says nothing of lines without letters', () =>
    expect(said({ text: 'a wonderful day\n\nhere', width: 30, leading: 2 })).toEqual([
      ['a', 0, 0],
      ['wonderful', 0, -20],
      ['day', 0, -40],
      ['here', 0, -80],
    ]));
  it('counts the space between letters', () => {
    expect(said({ text: 'one two', width: 36 })).toHaveLength(1);
    expect(said({ text: 'one two', width: 36, spacing: 0.05 })).toHaveLength(2);
  });
  it('loses no word and makes no line wider than the box, but for one word alone', () =>
    fc.assert(
      fc.property(
        fc.array(fc.stringMatching(/^[a-z]{1,9}$/), { minLength: 1, maxLength: 30 }),
        fc.integer({ min: 5, max: 200 }),
        fc.constantFrom('start', 'middle', 'end'),
        (words, width, align) => {
          const lines = linesOf({ text: words.join(' '), width, align: align as 'start' });
          expect(lines.map((line) => line.text.trim()).join(' ')).toBe(words.join(' '));
          for (const line of lines) if (line.text.includes(' ')) expect(line.text.length * 5).toBeLessThanOrEqual(width + 1e-6);
        },
      ),
    ));
  it('of 20,000 letters is set at once', () => {
    const started = cpuTime();
    const long = 'sedge and reed '.repeat(1300);
    expect(linesOf({ text: long, width: 1e6 }, (font, words) => services.fonts.advance(font, words, 1)).length).toBe(1);
    expect(linesOf({ text: long, width: 300 }, (font, words) => services.fonts.advance(font, words, 1)).length).toBeGreaterThan(
      100,
    );
    expect(cpuTime() - started).toBeLessThan(10_000);
  });
  it('of 200,000 letters with as many parts as it may have is set in a moment', () => {
    const runs = Array.from({ length: 2000 }, (_, i) => ({ from: 100 * i, to: 100 * i + 50, size: 5 }));
    const started = cpuTime();
    expect(linesOf({ text: 'sedge reed '.repeat(18_000), width: 300, runs }).length).toBeGreaterThan(2000);
    expect(cpuTime() - started).toBeLessThan(10_000);
  });
});

describe('parts of a text that look otherwise', () => {
  it('stand where the letters before them end, blanks and spaces counted', () => {
    const runs = [{ from: 4, to: 7, size: 20, colour: '#c23b22' }];
    expect(linesOf({ text: 'one two six', runs })).toMatchObject([
      { text: 'one', at: [0, 0], size: 10, align: 'start', piece: 0 },
      { text: 'two', at: [20, 0], size: 20, colour: '#c23b22', piece: 1 },
      { text: 'six', at: [55, 0], size: 10, piece: 2 },
    ]);
    expect(linesOf({ text: 'one two six', runs, align: 'middle' })[0]!.at[0]).toBe(-35);
    expect(linesOf({ text: 'one two six', runs, align: 'end' })[1]!.at[0]).toBe(-50);
  });
  it('go over lines, and the largest letters say how far lines are apart', () =>
    expect(
      linesOf({ text: 'one two\nsix', runs: [{ from: 4, to: 9, size: 20 }] }).map(({ text: words, at }) => [words, at[1]]),
    ).toEqual([
      ['one', 0],
      ['two', 0],
      ['s', -25],
      ['ix', -25],
    ]));
  it('that say nothing, overlap or lie outside change nothing else', () => {
    expect(linesOf({ text: 'one', runs: [{ from: 5, to: 9, size: 3 }] })).toMatchObject([{ text: 'one', size: 10 }]);
    expect(
      linesOf({
        text: 'abcd',
        runs: [
          { from: 0, to: 3, size: 20 },
          { from: 2, to: 4, size: 30 },
        ],
      }).map(({ text: words, size }) => [words, size]),
    ).toEqual([
      ['abc', 20],
      ['d', 30],
    ]);
  });

  const run = fc.tuple(
    fc.nat(12),
    fc.nat(12),
    fc.constantFrom({ size: 3 }, { colour: '#123456' }, { size: undefined }, { font: 'Oswald' as const }),
  );
  it('are given and taken letter by letter: each letter has the last look that it was given', () =>
    fc.assert(
      fc.property(fc.array(run, { maxLength: 8 }), (changes) => {
        const letters = Array.from({ length: 12 }, (): Record<string, unknown> => ({}));
        let runs: ReturnType<typeof withRun> = [];
        for (const [a, b, change] of changes) {
          const [from, to] = [Math.min(a, b), Math.max(a, b)];
          runs = withRun(runs, from, to, change);
          for (let i = from; i < to; i++) letters[i] = { ...letters[i], ...change };
        }
        letters.forEach((look, i) => {
          const { from: _f, to: _t, ...own } = runs.find(({ from, to }) => from <= i && i < to) ?? { from: 0, to: 0 };
          expect(own).toEqual(JSON.parse(JSON.stringify(look)));
        });
        for (let i = 1; i < runs.length; i++) expect(runs[i]!.from).toBeGreaterThanOrEqual(runs[i - 1]!.to);
      }),
    ));

  const edited = (before: string, runs: TextItem['runs'], after: string) => {
    const master = masterWith([text('t', before, { runs })]);
    const { patches } = setAttribute(master, 't', 'text', after);
    return (findNode(applyPatches(master, patches).master, 't') as TextItem).runs;
  };
  it('keep their letters when the wording around them changes', () => {
    const runs = [{ from: 4, to: 7, size: 20 }];
    expect(edited('one two six', runs, 'one and two six')).toEqual([{ from: 8, to: 11, size: 20 }]);
    expect(edited('one two six', runs, 'one twos six')).toEqual([{ from: 4, to: 8, size: 20 }]);
    expect(edited('one two six', runs, 'one six')).toBeUndefined();
    expect(edited('one two six', runs, 'one tw')).toEqual([{ from: 4, to: 6, size: 20 }]);
    expect(edited('one two', undefined, 'two')).toBeUndefined();
  });
  it('say what was done to them', () => {
    const master = masterWith([text('t', 'one two six')]);
    const { label, patches } = setPart(master, 't', 4, 7, { colour: '#c23b22' });
    expect(label).toBe('“two” on Front: colour #c23b22');
    const back = setPart(applyPatches(master, patches).master, 't', 4, 7, { colour: undefined });
    expect(back.patches).toEqual([{ op: 'set', node: 't', attribute: 'runs', value: undefined }]);
  });
});

describe('spaces, boxes and parts in copies', () => {
  const recipe = (target: string): Recipe => ({
    id: 'r1',
    scope: { of: 'boards', ids: ['b1'] },
    target,
    options: parseOptions({ id: target }, {}),
    choices: [],
    row: null,
  });
  const rich = masterWith([
    text('spaced', 'Lantern', { spacing: 0.1 }),
    text('parts', 'To the north pool', {
      y: 20,
      align: 'middle',
      x: 90,
      runs: [{ from: 7, to: 12, font: 'Oswald Bold', size: 20, colour: '#c23b22' }],
    }),
  ]);

  it('say what becomes of them: spaces stay in SVG and become outlines in DXF, parts are texts of their own', async () => {
    const svg = await deriveFlat(rich, recipe('svg'));
    expect(new TextDecoder().decode(svg.bytes)).toMatch(/letter-spacing="1\.2"[^>]*>Lantern</);
    expect(svg.projection.entries).toHaveLength(4);
    const dxf = await deriveFlat(rich, recipe('dxf'));
    expect(dxf.projection.entries.map(({ kind }) => kind)).toEqual(['path', 'text', 'text', 'text']);
    expect(dxf.report.lines.map(({ what, becomes }) => `${what} ${becomes}`)).toEqual(
      expect.arrayContaining([
        'Text of several looks arrives as one text each look',
        'Text with spaced letters becomes outlines',
      ]),
    );
  });
  it('are found where they were changed', async () => {
    const made = await deriveFlat(rich, recipe('svg'));
    const bytes = new TextEncoder().encode(
      new TextDecoder().decode(made.bytes).replace('letter-spacing="1.2"', 'letter-spacing="1.5"'),
    );
    const read = targetById('svg').read(bytes);
    const { differences } = compare(made.projection, read.list, { tolerance: 0.05, order: 'paint' });
    expect(differences.map(({ kind, master, copy }) => [kind, master, copy])).toEqual([
      ['restyled', 'letters 1.200 mm apart', 'letters 1.500 mm apart'],
    ]);
  });
  it('that are longer or have more parts than a text can hold come in as far as they go, and that is said', () => {
    const parts = Array.from({ length: 3000 }, (_, i) => `<tspan fill="#${(i + 4096).toString(16).padStart(6, '0')}">x</tspan>`);
    const words = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm"><text letter-spacing="calc(1px)">${parts.join('')}</text>
      <text letter-spacing="-500">${'fen '.repeat(60_000)}</text></svg>`;
    const { master, notUnderstood } = targetById('svg').bringIn!(new TextEncoder().encode(words), 'words.svg');
    expect(notUnderstood.map(({ kind }) => kind)).toEqual(
      expect.arrayContaining(['text with more than 2000 looks', 'text of more than 200,000 letters', 'letter spacing']),
    );
    expect(Master.safeParse(master).success).toBe(true);
  });
  it('come in from SVG: one text with its parts, each with its letters, size, colour and spaces', () => {
    const words = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="0 0 100 50">
      <text x="10" y="20" font-family="Oswald" font-size="5" letter-spacing="0.1em">To the
        <tspan font-weight="bold" font-size="8" fill="#c23b22">north</tspan> <tspan letter-spacing="0">pool</tspan></text></svg>`;
    const { master, notUnderstood } = targetById('svg').bringIn!(new TextEncoder().encode(words), 'words.svg');
    expect(notUnderstood).toEqual([]);
    const [item] = master.boards[0]!.items as TextItem[];
    expect(item).toMatchObject({ text: 'To the north pool', size: 5, spacing: 0.1, font: 'Oswald' });
    expect(item!.runs).toMatchObject([
      // What was inherited is half a millimetre, whatever the letters measure.
      { from: 7, to: 12, size: 8, colour: '#c23b22', font: 'Oswald Bold', spacing: 0.0625 },
      { from: 13, to: 17, spacing: 0 },
    ]);
  });
});

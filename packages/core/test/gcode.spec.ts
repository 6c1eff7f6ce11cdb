import {
  type Failure,
  type Machining,
  bringInAny,
  checkCopy,
  jobOfFile,
  codecOf,
  derive,
  recipeOf,
  recognise,
  type Difference,
} from '../src';
import type { Item } from '../src';
import { layer, lined, masterWith } from './build';
import { services } from './flat';

const on = { layer: 'route', style: lined('#14213a') };
const items: Item[] = [
  { kind: 'rectangle', id: 'plate', name: 'Plate', ...on, x: 50, y: 50, width: 120, height: 80, radius: 10 },
  { kind: 'ellipse', id: 'hole', name: 'Hole', ...on, cx: 90, cy: 90, rx: 8, ry: 8 },
  { kind: 'ellipse', id: 'bore', name: 'Bore', ...on, layer: 'drill', cx: 140, cy: 90, rx: 1.5, ry: 1.5 },
  {
    kind: 'polyline',
    id: 'mark',
    name: 'Mark',
    ...on,
    layer: 'engrave',
    points: [
      [60, 60],
      [80, 60],
      [80, 70],
    ],
    closed: false,
  },
];
const master = masterWith(items, {
  layers: [layer('route', 'route'), layer('drill', 'drill'), layer('engrave', 'engrave')],
  boards: [{ id: 'b1', name: 'Sheet', width: 300, height: 200, background: null, items }],
});
const revision = { master, rev: 1, time: '2026-11-20T10:00:00Z' };
const encode = (text: string) => new TextEncoder().encode(text);

const written = async (options: Record<string, unknown> = {}): Promise<string> =>
  new TextDecoder().decode((await derive(revision, recipeOf('gcode', options), services)).files[0]!.bytes);
const read = async (text: string) => {
  const codec = await codecOf('gcode');
  const { leaves, notUnderstood } = await codec.read([{ part: '', bytes: encode(text) }], {}, services);
  return { moves: leaves[0]!.body as Machining, told: notUnderstood.map(({ kind }) => kind) };
};
const placesOf = ({ ends, count }: Machining) =>
  Array.from({ length: count }, (_, i) => [...ends.subarray(3 * i, 3 * i + 3)].map((v) => Number(v.toFixed(4))));

async function check(
  text: string,
  options: Record<string, unknown> = {},
): Promise<{ verdict: string; differences: readonly Difference[] }> {
  return checkCopy(
    {
      current: master,
      files: [{ part: '', bytes: encode(text) }],
      intact: null,
      says: '',
      recipe: recipeOf('gcode', options),
      baseline: master,
    },
    services,
  );
}

describe('a program from elsewhere', () => {
  it('is recognised by its words, and a cut file, a table and a letter are none', () => {
    expect(recognise(encode('G21\nG90\nG0 X1 Y2\nG1 Z-1 F100\nX5\nM2\n'))?.id).toBe('gcode');
    expect(recognise(encode('%\nO1000 (part)\nN10 g20 g90\nN20 g0 x1.5 y2.\nN30 g1 z-.1 f10\n'))?.id).toBe('gcode');
    expect(recognise(encode('IN;SP1;PU0,0;PD400,400;'))?.id).toBe('hpgl');
    expect(recognise(encode('G1,G2\n1,2\n3,4\n'))?.id).not.toBe('gcode');
    expect(recognise(encode('Good morning.\nG21 is what we say.\n'))?.id).not.toBe('gcode');
  });

  it('says the same in inches, in steps, in small letters and with numbered lines', async () => {
    const plain = await read('G21 G90\nG0 X25.4 Y0\nG1 Z-2.54 F254\nX50.8\nM2\n');
    for (const other of [
      'G20 G90\nG0 X1 Y0\nG1 Z-.1 F10\nX2\nM2\n',
      'g21g90\r\ng0x25.4y0\r\ng1z-2.54f254\r\nx50.8\r\nm2',
      'N1 G21\rN2 G90\rN3 G0 X25.4 Y0\rN4 G91\rN5 G1 Z-2.54 F254 (down)\rN6 X25.4 ; on\rN7 M30',
    ]) {
      const { moves, told } = await read(other);
      expect(told).toEqual([]);
      // Heights that nobody said before: from nothing, or from 0.
      expect(placesOf(moves).at(-1)).toEqual(placesOf(plain.moves).at(-1));
      expect([...moves.feed].at(-1)).toBeCloseTo(254, 6);
    }
  });

  it('has arcs by their centres and by their radius alike', async () => {
    const centre = async (line: string) => {
      const { moves } = await read(`G21 G90 G17\nG0 X0 Y0 Z0\n${line} F100\nM2\n`);
      return [...moves.centres.subarray(2, 4)].map((value) => Number(value.toFixed(3)));
    };
    expect(await centre('G2 X10 Y10 I10 J0')).toEqual([10, 0]);
    expect(await centre('G2 X10 Y10 R10')).toEqual([10, 0]);
    expect(await centre('G3 X10 Y10 R10')).toEqual([0, 10]);
    // The long way round.
    expect(await centre('G2 X10 Y10 R-10')).toEqual([0, 10]);
  });

  it.each([
    ['a word that is none', 'G21\nG0 X1\nG1 Xfoo\n', 3, /not “Xfoo”/],
    ['a place before any motion', 'G21\nX10\n', 2, /without G0/],
    ['an arc without a centre', 'G0 X1 Y1\nG2 X2 Y2\n', 2, /without I, J or R/],
    ['a radius that does not reach', 'G0 X0 Y0\nG2 X20 Y0 R5\n', 2, /does not reach/],
    ['a drilling cycle without its height', 'G0 X1 Y1 Z5\nG81 X2 Y2 Z-3 F100\n', 2, /without R or Z/],
    ['steps of a cycle that are none', 'G0 X1 Y1 Z5\nG83 X2 Z-3 R1 F100\n', 2, /without Q/],
    [
      'more steps of cycles than can be followed',
      `G0 X1 Y1 Z5\nG83 X2 Z-90 R1 Q0.001 F100\n${'X1\n'.repeat(9)}`,
      4,
      /more steps/,
    ],
    ['a note without an end', 'G0 X1\n(hello\n', 2, /no end/],
    ['a number out of all reason', 'G0 X1\nG1 X99999999999\n', 2, /out of all reason/],
  ])('with %s is refused, with its line', async (_, text, line, words) => {
    const failure = await read(text).then(
      () => null,
      (error: Failure) => error,
    );
    expect(failure?.code).toBe('gcode-damaged');
    expect(failure?.where).toMatchObject({ line });
    expect(failure?.message).toMatch(words);
  });

  it('drills by cycles: in one go, in steps, at each place until it is told otherwise', async () => {
    const { moves, told } = await read(
      'G21 G90\nT1 M6\nS900 M3\nG0 Z5\nG99 G81 X10 Y10 Z-3 R1 F200\nX20\nG98 G83 X30 Y20 Z-4 R2 Q3\nG80\nG0 X0\nG91 G81 X5 Z-4 R-3\nG80\nM5\nM2\n',
    );
    expect(told).toEqual([]);
    const work = placesOf(moves).map((place, i) => [...place, moves.motion[i]! ? moves.feed[i] : 'air']);
    expect(work.slice(1)).toEqual([
      [10, 10, 5, 'air'],
      [10, 10, 1, 'air'],
      [10, 10, -3, 200],
      [10, 10, 1, 'air'],
      [20, 10, 1, 'air'],
      [20, 10, -3, 200],
      [20, 10, 1, 'air'],
      [30, 20, 1, 'air'],
      [30, 20, 2, 'air'],
      [30, 20, -1, 200],
      [30, 20, 2, 'air'],
      [30, 20, -0.75, 'air'],
      [30, 20, -4, 200],
      [30, 20, 5, 'air'],
      [0, 20, 5, 'air'],
      [5, 20, 5, 'air'],
      [5, 20, 2, 'air'],
      [5, 20, -2, 200],
      [5, 20, 5, 'air'],
    ]);
  });

  it('is for looking only: its moves are told, a drawing is none, and it does not become a master', async () => {
    const bytes = encode('%\nG21 G90\nG0 X1 Y2\nG1 Z-1 F100\nX5\nM2\n');
    const job = await jobOfFile(bytes, services);
    expect(job).toMatchObject({ kind: 'machining', language: 'ISO 6983-1', comesIn: false, mark: null, notUnderstood: [] });
    expect((job!.body as Machining).count).toBe(3);
    expect(await jobOfFile(encode('IN;SP1;PU0,0;PD400,400;'), services)).toMatchObject({ language: 'HP-GL', comesIn: true });
    expect(await jobOfFile(encode('<svg xmlns="http://www.w3.org/2000/svg"/>'), services)).toBeNull();
    await expect(bringInAny(bytes, 'latch.nc', services)).rejects.toThrow(/for looking only/);
  });

  it('names what is not known with its line, and lines behind the end', async () => {
    const { told } = await read('G21 G90\nG0 X1 Y1\nG84 X2 Y2 Z-3\nG41\nM98\nG0\nG1 X4 F100\nM2\nG0 X9\n');
    expect(told).toEqual(
      expect.arrayContaining(['G84, line 3', 'G41, line 4', 'M98, line 5', 'lines behind the end of the program']),
    );
  });

  it('tells arcs that do not end on their circle, and a program without an end', async () => {
    const { told } = await read('G21\nG0 X0 Y0\nG2 X10 Y10 I10 J1 F100\n');
    expect(told.some((kind) => kind.startsWith('an arc that ends'))).toBe(true);
    expect(told).toContain('no end of the program (M2)');
  });
});

describe('a program of ours', () => {
  it('reads back as it was meant, in every spelling, and the same recipe gives the same bytes', async () => {
    for (const options of [
      {},
      { unit: 'inch' },
      { arcs: 'lines' },
      { numbers: 'every line' },
      { entry: 'plunge', tabs: 4 },
      { lead: 3 },
    ]) {
      const text = await written(options);
      expect((await check(text, options)).verdict).toBe('in step');
      expect(await written(options)).toBe(text);
    }
  });

  it('has no line longer than a control takes, and only plain letters', async () => {
    const text = await written();
    for (const line of text.split('\n')) {
      expect(line.length).toBeLessThanOrEqual(120);
      expect(line).toMatch(/^[\x20-\x7e]*$/);
    }
  });

  it('engraves, drills and cuts in that order, holes before what they are in', async () => {
    const text = await written();
    const order = ['(Mark)', '(Bore)', '(Hole)', '(Plate)'].map((note) => text.indexOf(note));
    expect(order).toEqual([...order].sort((a, b) => a - b));
    expect(order[0]).toBeGreaterThan(0);
  });

  it('leaves bridges as high as is asked', async () => {
    const { moves } = await read(await written({ tabs: 3, tabHeight: 2.5, tabLength: 8, entry: 'plunge' }));
    const heights = new Set(placesOf(moves).map(([, , z]) => z));
    expect(heights.has(-6.5)).toBe(true);
  });
});

/** What somebody might do to a program by hand, or another program by mistake. */
const FAULTS: [string, (text: string) => string][] = [
  ['a feed', (text) => text.replace('F1800.', 'F1700.')],
  ['a plunge feed', (text) => text.replace('F400.', 'F800.')],
  ['turns', (text) => text.replace('S16000', 'S12000')],
  ['a tool', (text) => text.replace('T1 M6', 'T2 M6')],
  ['a depth', (text) => text.replace('Z-9.3', 'Z-9.2')],
  ['a depth by a hundredth', (text) => text.replace('Z-9.3', 'Z-9.31')],
  ['a place', (text) => text.replace(/X(\d+)\.(\d+) Y/, (_, a: string, b: string) => `X${Number(a) + 1}.${b} Y`)],
  ['the safe height', (text) => text.replaceAll('Z5.', 'Z4.')],
  ['a rapid for a cut', (text) => text.replace(/G1 (X[^\n]*)/, 'G0 $1')],
  ['a cut for a rapid', (text) => text.replace(/\nG0 Z5\.\n\(Plate/, '\nG1 Z5.\n(Plate')],
  ['one arc turned', (text) => text.replace('G2', 'G3')],
  ['all arcs turned', (text) => text.replaceAll('G3', 'G9').replaceAll('G2 ', 'G3 ').replaceAll('G9', 'G2')],
  ['a centre', (text) => text.replace(/I(-?\d+)\./, (_, a: string) => `I${Number(a) + 1}.`)],
  ['a move gone', (text) => withoutLine(text, /^X[^\n]*$/m)],
  ['a retract gone', (text) => withoutLine(text, /^G0 Z5\.$/m, 2)],
  ['a move twice', (text) => text.replace(/^(X\S+ Y\S+)$/m, '$1 Z-4.\n$1 Z-9.')],
  ['the unit', (text) => text.replace('G21', 'G20')],
  ['absolute for steps', (text) => text.replace('G90', 'G91')],
  ['the spindle never on', (text) => text.replaceAll(/S\d+ M3\n/g, '')],
  ['the spindle the other way', (text) => text.replace('M3', 'M4')],
  ['another plane', (text) => text.replace('G17', 'G18')],
  ['a zero point of another', (text) => text.replace('G54', 'G55')],
  ['the end gone', (text) => text.replace('M2\n', '')],
  ['cut off in the middle', (text) => text.slice(0, Math.floor(text.length * 0.8))],
  ['more behind the end', (text) => text.replace('M2\n', 'M2\nG0 X0 Y0\n')],
  ['a compensation', (text) => text.replace('G40', 'G41')],
  ['two objects exchanged', (text) => exchanged(text)],
];
const withoutLine = (text: string, pattern: RegExp, nth = 1): string => {
  const lines = text.split('\n');
  const at = lines.flatMap((line, i) => (pattern.test(line) ? [i] : []))[nth - 1]!;
  return lines.filter((_, i) => i !== at).join('\n');
};
/** The hole and what follows it, in the other order. */
const exchanged = (text: string): string => {
  const parts = /^([\s\S]*)(\(Hole\)[\s\S]*?)(\(Plate\)[\s\S]*?)(M5[\s\S]*)$/.exec(text)!;
  const motion = (one: string) => one.replace(/\n(?=X)/, '\nG0 ');
  return `${parts[1]!}${motion(parts[3]!)}${motion(parts[2]!)}${parts[4]!}`;
};

/** What changes nothing. */
const HARMLESS: [string, (text: string) => string][] = [
  ['line ends', (text) => text.replaceAll('\n', '\r\n')],
  ['small letters', (text) => text.replaceAll(/^[GXYZMTS][^\n]*$/gm, (line) => line.toLowerCase())],
  ['notes gone', (text) => text.replaceAll(/^\((?!~)[^\n]*\)\n/gm, '')],
  ['more notes', (text) => text.replaceAll('M6', 'M6 (change)')],
  [
    'line numbers',
    (text) =>
      text
        .split('\n')
        .map((line, i) => (/^[GXYZMTS]/.test(line) ? `N${i} ${line}` : line))
        .join('\n'),
  ],
  ['no blanks', (text) => text.replaceAll(/^[GXYZMTS][^\n]*$/gm, (line) => line.replaceAll(' ', ''))],
  ['more decimals', (text) => text.replaceAll(/([XYZIJ]-?\d+\.\d*)/g, (word) => `${word}00`)],
  ['modal words said again', (text) => text.replaceAll(/^X/gm, 'G90 X')],
  ['coolant', (text) => text.replace('M3', 'M3 M8')],
  ['without per cents', (text) => text.replaceAll('%\n', '')],
  ['M30 for M2', (text) => text.replace('M2\n', 'M30\n')],
];

describe('what was done to a program', () => {
  it.each(FAULTS)('%s is found', async (_, change) => {
    const text = await written();
    const changed = change(text);
    expect(changed).not.toBe(text);
    const { verdict, differences } = await check(changed);
    expect(verdict).not.toBe('in step');
    if (verdict !== 'unreadable') expect(differences.length).toBeGreaterThan(0);
  });

  it.each(HARMLESS)('%s: still in step', async (_, change) => {
    const text = await written();
    const changed = change(text);
    expect(changed).not.toBe(text);
    expect(await check(changed)).toMatchObject({ verdict: 'in step', differences: [] });
  });

  it('is told by what it is: one depth is one depth, a pass gone is a run of moves', async () => {
    const text = await written();
    const deeper = (await check(text.replace('Z-9.3', 'Z-9.2'))).differences;
    expect(deeper[0]).toMatchObject({ kind: 'depth changed', unit: 'mm' });
    expect(deeper[0]!.amount).toBeCloseTo(0.1, 6);
    const tool = (await check(text.replace('T1 M6', 'T2 M6'))).differences;
    expect(tool.map(({ kind }) => kind)).toContain('tool changed');
    expect(tool.find(({ kind }) => kind === 'tool changed')).toMatchObject({ master: 'tool 1', copy: 'tool 2' });
  });
});

import fc from 'fast-check';
import {
  type PathEntry,
  type DisplayEntry,
  type Failure,
  boxOfOutlines,
  bringInAny,
  derive,
  flatten,
  lengthOfPolyline,
  recipeOf,
  recognise,
} from '../src';
import { master } from './arbitrary';
import { layer, masterWith, rectangle, text } from './build';
import { compare, parseOptions, project, services, targetById } from './flat';
import { runs } from './depth';

const hpgl = targetById('hpgl');
const read = (words: string) => hpgl.read(new TextEncoder().encode(words));
const pointsOf = (entry: DisplayEntry) => (entry.kind === 'path' ? entry.outlines.flatMap((one) => flatten(one, 0.001)) : []);
const failureOf = (words: string): Failure => {
  try {
    read(words);
  } catch (error) {
    return error as Failure;
  }
  throw new Error('nothing was thrown');
};

describe('units of a file’s own', () => {
  /** Where lines go, mm. */
  const drawn = (words: string) => {
    const { list, notUnderstood } = read(words);
    const points = list.entries.map((one) => pointsOf(one).map((value) => Number(value.toFixed(3))));
    return { points, told: notUnderstood.map(({ kind }) => kind) };
  };

  it.each([
    ['each axis by its own', 'IP400,800,4400,4800;SC0,100,0,50;', [10, 20, 60, 120]],
    ['turned about', 'IP4400,4800,400,800;SC0,100,0,50;', [110, 120, 60, 20]],
    ['as an instruction says: both by the smaller, in the middle', 'IP0,0,4000,8000;SC0,100,0,100,1;', [0, 50, 50, 100]],
    ['as an instruction says: both by the smaller, at the lower edge', 'IP0,0,4000,8000;SC0,100,0,100,1,0,0;', [0, 0, 50, 50]],
    ['by plotter units to one of its own', 'IP400,400,9999,9999;SC0,40,0,80,2;', [10, 10, 60, 110]],
    ['none again', 'IP400,800,4400,4800;SC0,100,0,50;SC;', [0, 0, 1.25, 1.25]],
    ['none after the machine began anew', 'IP400,800,4400,4800;SC0,100,0,50;IN;', [0, 0, 1.25, 1.25]],
    ['places that move on', 'IP0,0,4000,4000;SC0,100,0,100;IP400,400;', [10, 10, 60, 60]],
  ])('%s', (_, setUp, expected) => {
    expect(drawn(`IN;${setUp}SP1;PU0,0;PD50,50;PU;`)).toEqual({ points: [expected], told: [] });
    // The same by steps.
    expect(drawn(`IN;${setUp}SP1;PU0,0;PD;PR50,50;PU;`).points).toEqual([expected]);
  });

  it('circles and arcs become what the axes make of them', () => {
    const [circle] = drawn('IN;IP0,0,4000,8000;SC0,100,0,100;SP1;PU50,50;CI10;').points;
    const xs = circle!.filter((_, i) => i % 2 === 0);
    const ys = circle!.filter((_, i) => i % 2 === 1);
    expect([Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)].map(Math.round)).toEqual([40, 60, 80, 120]);
    const [arc] = drawn('IN;IP0,0,4000,8000;SC0,100,0,100;SP1;PU60,50;PD;AA50,50,90;PU;').points;
    expect(arc!.slice(-2)).toEqual([50, 120]);
  });

  it('that go by places of the machine are told', () => {
    expect(drawn('IN;SC0,100,0,100;SP1;PU0,0;PD50,50;PU;').told).toEqual(['scale to places of the machine']);
    expect(drawn('IN;IP0,0,4000,4000;SC0,0,0,100;SP1;PU0,0;PD50,50;PU;').told).toEqual(['scale to places of the machine']);
  });
});

describe('writing HP-GL', () => {
  it('reads back as what the machine is told, in its order, for any master', () => {
    fc.assert(
      fc.property(master, (one) => {
        const { projection } = project(one, recipeOf('hpgl', {}));
        const { list, notUnderstood } = hpgl.read(hpgl.write(projection, parseOptions(hpgl, {}), 'a mark'));
        expect(compare(projection, list, { tolerance: 0.05, order: 'sequence' }).differences).toEqual([]);
        expect(notUnderstood).toEqual([]);
      }),
      { numRuns: runs(40) },
    );
  });
  it('is small enough to read: units of 0.025 mm, one pen for each process', () => {
    const one = masterWith(
      [
        rectangle('a', 10, 10),
        rectangle('s', 0, 0, { layer: 'score', width: 5, height: 5 }),
        rectangle('p', 0, 0, { layer: 'print' }),
      ],
      {
        layers: [layer('cut'), layer('score', 'score'), layer('print', 'print')],
      },
    );
    const { projection, report } = project(one, recipeOf('hpgl', {}));
    expect(new TextDecoder().decode(hpgl.write(projection, parseOptions(hpgl, {}), 'the mark'))).toBe(
      'IN;\nCO "the mark";\nSP1;\nPU400,400;\nPD2000,400,2000,1200,400,1200,400,400;\nSP2;\nPU0,0;\nPD200,0,200,200,0,200,0,0;\nPU;\nSP0;\n',
    );
    expect(report.lines).toEqual(
      expect.arrayContaining([
        expect.objectContaining({ outcome: 'left out', what: 'Objects on “print” (print)', objects: ['p'] }),
      ]),
    );
  });
  it('outlines text and says so, and measures what rounding moves', () => {
    const { projection, report } = project(masterWith([text('t', 'Sedge')]), recipeOf('hpgl', {}));
    expect(projection.entries[0]).toMatchObject({ kind: 'path', layer: 'Pen 1' });
    expect(report.lines.find(({ feature }) => feature === 'text')).toMatchObject({ outcome: 'restated', count: 1 });
    const grid = report.lines.find(({ feature }) => feature === 'grid')!;
    expect(grid.deviation).toBeGreaterThan(0);
    expect(grid.deviation).toBeLessThanOrEqual(0.0125 * Math.SQRT2 + 1e-9);
  });
  it('names the characters that the font does not have', () => {
    const { report } = project(masterWith([text('t', 'ab 鷺')]), recipeOf('hpgl', {}));
    expect(report.lines).toEqual(
      expect.arrayContaining([expect.objectContaining({ outcome: 'left out', what: 'Characters 鷺', count: 1 })]),
    );
  });
  it('puts all on one pen where that is asked', () => {
    const one = masterWith([rectangle('a'), rectangle('s', 0, 0, { layer: 'score' })], {
      layers: [layer('cut'), layer('score', 'score')],
    });
    expect(project(one, recipeOf('hpgl', { pens: 'one pen' })).projection.layers).toEqual([{ name: 'Pen 1', colour: null }]);
  });
});

describe('reading HP-GL', () => {
  it('follows absolute and relative moves alike', () => {
    const [a, b] = ['IN;SP1;PU0,0;PD400,0,400,400;PU;', 'IN;SP1;PU;PA0,0;PR;PD400,0,0,400;PU;'].map(
      (words) => read(words).list.entries,
    );
    expect(pointsOf(b![0]!)).toEqual(pointsOf(a![0]!));
    expect(pointsOf(a![0]!)).toEqual([0, 0, 10, 0, 10, 10]);
  });
  it('knows pens, instructions without separators and circles', () => {
    const { list } = read('IN SP2PU40,40CI400;SP3;PU0,0PD40,0;');
    expect(list.layers.map(({ name }) => name)).toEqual(['Pen 2', 'Pen 3']);
    expect(boxOfOutlines((list.entries[0] as PathEntry).outlines)).toMatchObject({
      minX: expect.closeTo(-9, 1),
      maxX: expect.closeTo(11, 1),
    });
  });
  it('draws arcs about their centres', () => {
    const points = pointsOf(read('IN;SP1;PU400,0;PD;AA0,0,180;PU;').list.entries[0]!);
    for (let i = 0; i < points.length; i += 2) expect(Math.hypot(points[i]!, points[i + 1]!)).toBeCloseTo(10, 1);
    expect(points.at(-2)).toBeCloseTo(-10);
    const whole = read('IN;SP1;PU400,0;PD;AR-400,0,360;PU;').list.entries[0]!;
    expect(whole.kind === 'path' && whole.outlines[0]!.closed).toBe(true);
  });
  it('finds the mark in the comment, whatever stands in it', () =>
    expect(read('IN;CO "inkwell-twin; master=a;b";PU;').mark).toBe('inkwell-twin; master=a;b'));
  it('is known for what it is behind what a printer is told first, however long that is', () => {
    const settings = Array.from({ length: 60 }, (_, i) => `@PJL SET TRAY=${i}\n`).join('');
    for (const before of [
      '',
      ' ;',
      '\u001b.(',
      '\u001bE\u001b%1B',
      `\u001b%-12345X${settings}@PJL ENTER LANGUAGE=HPGL2\n\u001b%0B`,
    ]) {
      const words = `${before}IN;SP1;PU0,0;PD400,0;PU;`;
      expect(recognise(new TextEncoder().encode(words))?.id).toBe('hpgl');
      expect(read(words)).toMatchObject({ notUnderstood: [], list: { entries: [expect.anything()] } });
    }
  });
  it('counts instructions that it does not know', () =>
    expect(read('IN;SP1;XX5;PU0,0;PD1,1;XX;PU;').notUnderstood).toEqual([{ kind: 'instruction XX', count: 2, shows: true }]));
  it.each([
    ['a word for a number', 'IN;PUabc;', 'hpgl-damaged'],
    ['a point of one coordinate', 'IN;SP1;PD1,2,3;', 'hpgl-damaged'],
    ['a comment without end', 'IN;CO "never', 'hpgl-damaged'],
    ['a drawing', '<svg/>', 'hpgl-damaged'],
    ['nothing', '   ', 'not-hpgl'],
    ['an end in the middle of a move', 'IN;SP1;PU0,0;PD40,40,80', 'hpgl-damaged'],
    ['too large a number', 'IN;PD1e400,0;', 'hpgl-damaged'],
  ])('refuses %s and says at which byte', (_, words, code) => {
    const failure = failureOf(words);
    expect(failure.code).toBe(code);
    expect(failure.where.byte).toBeGreaterThanOrEqual(0);
  });
});

describe('a machine file as a master', () => {
  const bytes = (words: string) => new TextEncoder().encode(words);
  it('has a layer for each pen, and each stroke as a path where it was', async () => {
    const words = 'IN;SP1;PU400,400;PD4400,400;PD4400,2400;PD400,2400;PD400,400;PU;SP3;PU800,800;PD1200,1200;PU;';
    const { master: made, notUnderstood } = await bringInAny(bytes(words), 'sign.plt', services);
    expect(made.layers.map(({ name }) => name)).toEqual(['Pen 1', 'Pen 3']);
    const [plate, line] = made.boards[0]!.items;
    if (plate?.kind !== 'path' || line?.kind !== 'path') throw new Error('no paths');
    expect([plate.outlines[0]!.closed, line.outlines[0]!.closed]).toEqual([true, false]);
    const { minX, maxX, minY, maxY } = boxOfOutlines(plate.outlines);
    expect([minX, maxX, minY, maxY]).toEqual([10, 110, 10, 60]);
    expect([made.boards[0]!.width, made.boards[0]!.height]).toEqual([120, 70]);
    expect(line.outlines[0]).toMatchObject({ start: [20, 20], segments: [{ kind: 'line', to: [30, 30] }] });
    expect(notUnderstood).toEqual([
      { kind: 'curves and letters, which a machine file holds as short lines', count: 1, shows: false },
    ]);
  });
  it('says the same again when it is derived for a machine', async () => {
    const words = 'IN;SP1;PU400,400;PD4400,400;PD4400,2400;PU;PU800,800;PD1200,1200;PU;';
    const { master: made } = await bringInAny(bytes(words), 'sign.plt', services);
    const copy = await derive({ master: made, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipeOf('hpgl', {}), services);
    expect(copy.defects).toEqual([]);
    const again = read(new TextDecoder('latin1').decode(copy.files[0]!.bytes));
    const lengths = (list: { entries: readonly DisplayEntry[] }) =>
      list.entries.map((one) => Math.round(lengthOfPolyline(pointsOf(one))));
    expect(lengths(again.list)).toEqual(lengths(read(words).list));
  });
  it('is refused where the pen is never down', async () => {
    await expect(bringInAny(bytes('IN;SP1;PU400,400;PU800,800;'), 'a.plt', services)).rejects.toMatchObject({
      code: 'hpgl-empty',
    });
  });
});

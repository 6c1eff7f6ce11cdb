import fc from 'fast-check';
import { BENCH } from '../../standins/src';
import {
  type Difference,
  type Item,
  type Machining,
  type Master,
  checkCopy,
  codecOf,
  derive,
  machineFit,
  recipeOf,
} from '../src';
import { filled, layer, lined, masterWith } from './build';
import { services } from './flat';
import { runs } from './depth';

const on = { layer: 'sewn' };
const pond: Item = { kind: 'ellipse', id: 'pond', name: 'Pond', ...on, style: filled('#2f6f8f'), cx: 50, cy: 55, rx: 30, ry: 18 };
const raft: Item = {
  kind: 'rectangle',
  id: 'raft',
  name: 'Raft',
  ...on,
  style: filled('#a86200'),
  x: 40,
  y: 48,
  width: 20,
  height: 10,
  radius: 2,
};
const reed: Item = {
  kind: 'polyline',
  id: 'reed',
  name: 'Reed',
  ...on,
  style: lined('#4d7a3a', 3),
  points: [
    [10, 10],
    [10, 60],
  ],
  closed: false,
};
const word = (text: string, more: object = {}): Item =>
  ({
    kind: 'text',
    id: 'word',
    name: 'Word',
    ...on,
    style: filled('#14213a'),
    x: 50,
    y: 18,
    text,
    size: 14,
    font: 'Commissioner',
    align: 'middle',
    ...more,
  }) as Item;
const sheet = (items: Item[], more: Partial<Master> = {}): Master =>
  masterWith(items, {
    layers: [layer('sewn', 'stitch')],
    boards: [{ id: 'b1', name: 'Badge', width: 100, height: 100, background: null, items }],
    ...more,
  });
const at = (master: Master) => ({ master, rev: 1, time: '2026-11-20T10:00:00Z' });
const made = async (items: Item[], options: Record<string, unknown> = {}) =>
  derive(at(sheet(items)), recipeOf('stitch', options as never), services);
const written = async (items: Item[], options: Record<string, unknown> = {}): Promise<string> =>
  new TextDecoder().decode((await made(items, options)).files[0]!.bytes);
const encode = (text: string) => new TextEncoder().encode(text);
const read = async (text: string) => {
  const codec = await codecOf('stitch');
  const { leaves, notUnderstood } = await codec.read([{ part: '', bytes: encode(text) }], {}, services);
  return { moves: leaves[0]!.body as Machining, told: notUnderstood.map(({ kind }) => kind) };
};
/** Where the needle goes in, mm, from the text of a list alone. */
const stitches = (text: string): { x: number; y: number; thread: number }[] =>
  [...text.matchAll(/^stitch,(-?\d+),(-?\d+),(\d+)$/gm)].map(([, x, y, thread]) => ({
    x: Number(x) / 10,
    y: Number(y) / 10,
    thread: Number(thread),
  }));
const count = (text: string, op: string): number => text.split('\n').filter((line) => line.startsWith(`${op},`)).length;

describe('what is sewn', () => {
  it('fills an area by rows as far apart as asked, none of them outside of it, and holes stay free', async () => {
    const text = await written([pond], { under: 'none', pull: 0, place: 'as drawn', density: 0.5 });
    const inside = stitches(text).filter(({ x, y }) => ((x + 50 - 50) / 30) ** 2 + ((y + 50 - 55) / 18) ** 2 > 1.02);
    expect(inside).toEqual([]);
    const rows = new Set(stitches(text).map(({ y }) => y));
    expect(rows.size).toBeGreaterThan(36 / 0.5 - 3);
    expect(rows.size).toBeLessThan(36 / 0.5 + 3);
    const ring: Item = {
      kind: 'path',
      id: 'ring',
      name: 'Ring',
      ...on,
      style: { ...filled('#2f6f8f'), fillRule: 'evenodd' },
      outlines: [10, 25].map((r) => ({
        start: [50 + r, 50] as const,
        segments: [
          { kind: 'arc' as const, to: [50 - r, 50] as const, centre: [50, 50] as const, clockwise: r === 10 },
          { kind: 'arc' as const, to: [50 + r, 50] as const, centre: [50, 50] as const, clockwise: r === 10 },
        ],
        closed: true,
      })),
    } as never;
    const holed = await written([ring], { under: 'none', pull: 0 });
    expect(stitches(holed).filter(({ x, y }) => Math.hypot(x, y) < 9.8)).toEqual([]);
    expect(BENCH['needle']!(encode(holed)).alarms).toEqual([]);
  });

  it('sews a wide line as satin from side to side, and a narrow one along', async () => {
    const satin = stitches(await written([reed], { under: 'none', pull: 0, density: 0.4 }));
    const sides = new Set(satin.map(({ x }) => Math.abs(x)));
    expect([...sides].sort()).toEqual([0.9, 1.5]);
    expect(satin.length).toBeGreaterThan(50 / 0.2 - 5);
    const thin = { ...reed, style: lined('#4d7a3a', 0.4) } as Item;
    const along = stitches(await written([thin], { length: 2.5 }));
    expect(new Set(along.map(({ x }) => x))).toEqual(new Set([0]));
    expect(along.length).toBeLessThan(50 / 2.5 + 8);
  });

  it('splits satin that is wider than seven millimetres', async () => {
    const wide = { ...reed, style: lined('#4d7a3a', 18) } as Item;
    const text = await written([wide], { under: 'none', pull: 0 });
    const report = BENCH['needle']!(encode(text));
    expect(report.alarms).toEqual([]);
    const places = stitches(text);
    const longest = Math.max(...places.slice(4).map(({ x, y }, i) => Math.hypot(x - places[i + 3]!.x, y - places[i + 3]!.y)));
    expect(longest).toBeLessThan(9.2);
  });

  it('sews something under what is wide, and holds the thread where it begins and before it is cut', async () => {
    const [bare, edged, full] = await Promise.all(
      ['none', 'edge', 'edge and zigzag'].map(async (under) => stitches(await written([pond], { under })).length),
    );
    expect(edged!).toBeGreaterThan(bare! + 30);
    expect(full!).toBeGreaterThan(edged! + 100);
    const places = stitches(await written([reed], { under: 'none' }));
    expect(Math.hypot(places[0]!.x - places[1]!.x, places[0]!.y - places[1]!.y)).toBeLessThan(0.8);
    expect(places[2]).toEqual(places[0]);
    expect(places.at(-1)).toEqual(places.at(-3));
  });

  it('is as the master says of an object: satin, rows at an angle, denser', async () => {
    const own = (stitch: object) => ({ ...pond, work: { stitch } }) as Item;
    const options = { under: 'none', pull: 0 };
    const [plain, dense] = await Promise.all([written([pond], options), written([own({ density: 0.25 })], options)]);
    expect(stitches(dense).length).toBeGreaterThan(1.4 * stitches(plain).length);
    const across = stitches(await written([own({ angle: 90 })], options));
    expect(new Set(across.map(({ x }) => x)).size).toBeLessThan(60 / 0.4 + 30);
    const edge = stitches(await written([own({ as: 'run' })], options));
    expect(edge.every(({ x, y }) => Math.abs((x / 30) ** 2 + (y / 18) ** 2 - 1) < 0.05)).toBe(true);
  });
});

describe('threads', () => {
  it('are one for each colour, changed as seldom as what lies over each other allows', async () => {
    const dot = (id: string, cx: number, cy: number, colour: string): Item => ({
      kind: 'ellipse',
      id,
      name: id,
      ...on,
      style: filled(colour),
      cx,
      cy,
      rx: 4,
      ry: 4,
    });
    const items = [
      dot('a', 10, 10, '#aa0000'),
      dot('b', 30, 10, '#0000aa'),
      dot('c', 50, 10, '#aa0000'),
      dot('d', 70, 10, '#0000aa'),
    ];
    const changes = (text: string) => stitches(text).filter(({ thread }, i, all) => i && all[i - 1]!.thread !== thread).length;
    expect(changes(await written(items))).toBe(1);
    expect(changes(await written(items, { order: 'as drawn' }))).toBe(3);
    expect(await written(items)).toContain('thread,1,#aa0000\nthread,2,#0000aa\n');
    // One that lies over another stays behind it.
    const over = [dot('a', 10, 10, '#aa0000'), dot('b', 12, 10, '#0000aa'), dot('c', 13, 10, '#aa0000')];
    expect(changes(await written(over))).toBe(2);
  });

  it('are on the needle that the master names; a seventh has none, and that is told', async () => {
    const text = await written([{ ...pond, work: { tool: 5 } } as Item, raft]);
    expect(text).toContain('thread,5,#2f6f8f');
    const many = Array.from(
      { length: 7 },
      (_, i): Item => ({ ...raft, id: `r${i}`, name: `Raft ${i}`, y: 10 + 11 * i, style: filled(`#0000${i}0`) }) as Item,
    );
    const { findings } = await machineFit(sheet(many), recipeOf('stitch', {}), services);
    expect(findings).toMatchObject([
      { kind: 'no tool', objects: ['r6'], words: expect.stringContaining('wants one more thread') as string },
    ]);
  });
});

describe('letters of the needle', () => {
  it('are there for the letters, digits and marks of names, each as columns', async () => {
    const all = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789ÄÖÜäöüéèêñçåš&.,-';
    for (let i = 0; i < all.length; i += 6) {
      const { files, report } = await made([word(all.slice(i, i + 6))]);
      expect(report.lines.filter(({ outcome, what }) => outcome === 'left out' && what.startsWith('Characters'))).toEqual([]);
      expect(BENCH['needle']!(files[0]!.bytes).alarms).toEqual([]);
    }
  });

  it('stand where the text stands, whatever it says; what there is no letter for is told', async () => {
    const middle = async (text: string) => {
      const xs = stitches(await written([word(text)], { place: 'as drawn' })).map(({ x }) => x);
      return (Math.min(...xs) + Math.max(...xs)) / 2;
    };
    for (const initials of ['IO', 'WQ', 'BÄ', 'MM']) expect(Math.abs(await middle(initials))).toBeLessThan(1);
    const { report } = await made([word('A東')]);
    expect(report.lines.map(({ what }) => what)).toContain('Characters 東');
  });

  it('that are too small hold no satin, which is settled by sewing along', async () => {
    const small = sheet([word('Fen', { size: 5 })]);
    const fit = (options: object) => machineFit(small, recipeOf('stitch', options as never), services);
    const { findings } = await fit({});
    expect(findings).toMatchObject([{ kind: 'too fine', objects: ['word'], mends: [{ options: { narrow: 'along' } }, {}] }]);
    expect((await fit({ narrow: 'along' })).findings).toEqual([]);
  });
});

describe('a list of stitches', () => {
  const items = [pond, raft, reed, word('Fen')];
  const master = sheet(items);
  const look = async (text: string): Promise<string[]> => {
    const files = [{ part: '', bytes: encode(text) }];
    const recipe = recipeOf('stitch', {});
    const result = await checkCopy({ current: master, files, intact: null, says: '', recipe, baseline: master }, services);
    return result.differences.map(({ kind }: Difference) => kind);
  };
  let text: string;
  beforeAll(async () => {
    text = await written(items);
  });
  /** The lines with the n-th stitch exchanged. */
  const nth = (op: string, at: number, by: (line: string) => string): string => {
    let seen = 0;
    return text
      .split('\n')
      .flatMap((line) => (line.startsWith(`${op},`) && seen++ === at ? by(line).split('|').filter(Boolean) : [line]))
      .join('\n');
  };

  it('says the same when it is read, and when it comes with other line ends or notes', async () => {
    expect(await look(text)).toEqual([]);
    for (const same of [
      text.replaceAll('\n', '\r\n'),
      text.replaceAll('\n', '\r'),
      text.replace('op,x', '# looked at by the machinist\nop,x'),
      text.replaceAll(',', ' , ').replace('inkwell-stitches , 1', 'inkwell-stitches,1'),
    ])
      expect(await look(same)).toEqual([]);
  });

  it.each<[string, () => string, string]>([
    ['a stitch gone', () => nth('stitch', 400, () => ''), 'missing'],
    ['a stitch more', () => nth('stitch', 400, (line) => `${line}|stitch,0,0,1`), 'added'],
    [
      'a stitch moved by a tenth',
      () => nth('stitch', 400, (line) => line.replace(/,(-?\d+),(\d)$/, (_, y: string, t: string) => `,${Number(y) + 1},${t}`)),
      'moved',
    ],
    ['a stitch become a jump', () => nth('stitch', 400, (line) => line.replace('stitch', 'jump')), 'motion changed'],
    ['a jump become a stitch', () => nth('jump', 2, (line) => line.replace('jump', 'stitch')), 'missing'],
    ['a cut gone', () => nth('cut', 1, () => ''), 'trim changed'],
    ['a thread of another needle', () => nth('stitch', 400, (line) => line.replace(/\d$/, '4')), 'thread changed'],
    ['a thread of another colour', () => text.replace('#2f6f8f', '#2f6f90'), 'thread changed'],
    ['two stitches exchanged', () => nth('stitch', 400, (line) => `stitch,11,22,1|${line}`), 'added'],
    ['an unknown word', () => nth('stitch', 400, (line) => `${line}|whip,1,2,3`), 'not understood'],
    ['no end', () => text.replace('end,,,\n', ''), 'not understood'],
    ['lines behind the end', () => `${text}stitch,1,1,1\n`, 'not understood'],
    ['cut short', () => text.slice(0, text.indexOf('\n', text.length / 2) + 1), 'missing'],
  ])('tells %s', async (_, changed, kind) => {
    expect(await look(changed())).toContain(kind);
  });

  it.each([
    ['', 'line 1: a list begins with “inkwell-stitches,1”'],
    ['inkwell-stitches,1\nop,x,y,thread\nstitch,1.5,2,1\n', 'line 3: “1.5” is no whole number for x'],
    ['inkwell-stitches,1\nop,x,y,thread\nstitch,1\n', 'line 3: “” is no whole number for a thread'],
    ['inkwell-stitches,1\nthread,1,red\n', 'line 2: “red” is no colour (#rrggbb)'],
    ['inkwell-stitches,1\nthread,1,#000000\nthread,1,#111111\n', 'line 3: thread 1 is said twice'],
    ['inkwell-stitches,1\nop,x,y,thread\njump,99999999,0,1\n', 'line 3: x 99999999 is out of all reason'],
  ])('that can’t be read says where and why: %j', async (bad, why) => {
    await expect(read(bad)).rejects.toThrow(why);
  });
});

describe('laws', () => {
  const number = (least: number, most: number) => fc.double({ min: least, max: most, noNaN: true });
  const colour = fc.constantFrom('#aa2200', '#2266aa', '#117733', '#ddaa00', '#14213a');
  const one = fc.record({
    x: number(12, 80),
    y: number(12, 80),
    w: number(2, 18),
    h: number(2, 18),
    line: number(0, 9),
    colour,
    kind: fc.constantFrom('ellipse', 'rectangle', 'polyline', 'text'),
  });
  const itemOf = (
    {
      x,
      y,
      w,
      h,
      line,
      colour: ink,
      kind,
    }: { x: number; y: number; w: number; h: number; line: number; colour: string; kind: string },
    i: number,
  ): Item => {
    const common = { id: `i${i}`, name: `Item ${i}`, ...on };
    const style = line > 1 ? { fill: ink, stroke: '#14213a', strokeWidth: line / 3 } : filled(ink);
    if (kind === 'ellipse') return { kind, ...common, style, cx: x, cy: y, rx: w / 2, ry: h / 2 };
    if (kind === 'rectangle') return { kind, ...common, style, x: x - w / 2, y: y - h / 2, width: w, height: h, radius: 0 };
    if (kind === 'text') return word('Wi', { ...common, style: filled(ink), x, y: y - 4, size: 8 + w / 3, layer: 'sewn' });
    return {
      kind: 'polyline',
      ...common,
      style: lined(ink, line),
      points: [
        [x - w / 2, y],
        [x, y + h / 2],
        [x + w / 2, y],
      ],
      closed: false,
    } as Item;
  };

  it('whatever is sewn stays in the hoop, runs to its end on the needle machine in the time that was said, and reads back as it is', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(one, { minLength: 1, maxLength: 7 }),
        fc.record({
          density: number(0.3, 1),
          length: number(1.5, 5),
          under: fc.constantFrom('none', 'edge', 'edge and zigzag'),
          trimOver: number(0.5, 8),
          order: fc.constantFrom('few threads', 'as drawn'),
          mirrored: fc.constantFrom('no', 'yes'),
          letters: fc.constantFrom('of the needle', 'as drawn'),
        }),
        async (all, options) => {
          const master = sheet(all.map(itemOf));
          const recipe = recipeOf('stitch', { ...options, narrow: 'along', place: 'as drawn' } as never);
          const { findings, job } = await machineFit(master, recipe, services);
          if (findings.length) return;
          const { files, defects } = await derive(at(master), recipe, services);
          expect(defects).toEqual([]);
          const report = BENCH['needle']!(files[0]!.bytes);
          expect(report.alarms).toEqual([]);
          if (!report.moves) return;
          expect(Math.abs(report.seconds - job!.seconds)).toBeLessThan(0.05 * report.seconds);
          const text = new TextDecoder().decode(files[0]!.bytes);
          expect(count(text, 'cut')).toBe(count(text, 'jump'));
        },
      ),
      { numRuns: runs(20) },
    );
  });
});

import { BENCH } from '../../standins/src';
import {
  type Finding,
  type FindingKind,
  type Item,
  type Master,
  type ToolPath,
  fitOf,
  machineFit,
  machineFrom,
  machineWord,
  recipeOf,
  SHIPPED_MACHINES,
  derive,
} from '../src';
import { layer, lined, masterWith } from './build';
import { services } from './flat';

const on = { layer: 'route', style: lined('#14213a') };
const plate = (id: string, x: number, y: number, width = 100, height = 80, more: Partial<Item> = {}): Item =>
  ({ kind: 'rectangle', id, name: id, ...on, x, y, width, height, radius: 4, ...more }) as Item;
const disc = (id: string, cx: number, cy: number, r: number, more: Partial<Item> = {}): Item =>
  ({ kind: 'ellipse', id, name: id, ...on, cx, cy, rx: r, ry: r, ...more }) as Item;
const line = (id: string, points: [number, number][], closed = false, more: Partial<Item> = {}): Item =>
  ({ kind: 'polyline', id, name: id, ...on, points, closed, ...more }) as Item;
const made = (...items: Item[]): Master =>
  masterWith(items, {
    layers: [
      layer('route', 'route'),
      layer('print', 'print'),
      layer('pocket', 'pocket'),
      layer('drill', 'drill'),
      layer('engrave', 'engrave'),
    ],
    boards: [{ id: 'b1', name: 'Sheet', width: 900, height: 600, background: null, items }],
  });

const recipe = (options: Record<string, unknown> = {}) => recipeOf('gcode', options);
const findings = (master: Master, options: Record<string, unknown> = {}) => fitOf(master, recipe(options), services);
const revision = (master: Master) => ({ master, rev: 1, time: '2026-11-20T10:00:00Z' });

/** Each thing that can be wrong: a master that has it, and how much of it. */
const WRONG: [FindingKind, Master, number | null][] = [
  ['off the bed', made(plate('wide', 850, 100)), 53],
  ['no tool', made(plate('one', 50, 50, 100, 80, { work: { tool: 9 } })), null],
  ['deeper than the stock', made(plate('one', 50, 50, 100, 80, { work: { depth: 12 } })), 2.7],
  ['deeper than the tool', made(disc('hole', 50, 50, 0.3, { layer: 'engrave', work: { depth: 5 } })), 1],
  [
    'open outline',
    made(
      line('gap', [
        [50, 50],
        [150, 50],
        [150, 150],
        [50, 150],
        [50, 50.2],
      ]),
    ),
    0.2,
  ],
  [
    'crosses itself',
    made(
      line(
        'bow',
        [
          [50, 50],
          [150, 150],
          [150, 50],
          [50, 150],
        ],
        true,
      ),
    ),
    null,
  ],
  ['hole too small', made(plate('plate', 50, 50), disc('pin', 100, 90, 2)), 6],
  ['wrong drill', made(disc('bore', 100, 90, 2, { layer: 'drill' })), 1],
  ['tight corner', made(plate('plate', 50, 50), plate('window', 70, 70, 40, 30, { radius: 0 } as Partial<Item>)), 3],
  ['doubled line', made(plate('one', 50, 50), plate('same', 50, 50)), 353.03],
  [
    'speck',
    made(
      plate('plate', 50, 50),
      line(
        'dust',
        [
          [300, 300],
          [300.1, 300],
          [300.1, 300.1],
        ],
        false,
        { layer: 'engrave' },
      ),
    ),
    0.1,
  ],
];

const named = (all: readonly Finding[], kind: FindingKind): Finding | undefined => all.find((one) => one.kind === kind);

const cards = (...items: Item[]): Master => masterWith(items, { layers: [layer('cut')] });
const card = (id: string, x: number, y: number, width = 40, height = 30): Item => ({
  kind: 'rectangle',
  id,
  name: id,
  layer: 'cut',
  style: lined('#14213a'),
  x,
  y,
  width,
  height,
  radius: 0,
});

it('is refused where the file is larger than the memory of its machine, before it is written and when it is', async () => {
  const master = cards(card('a', 20, 20));
  const cutter = SHIPPED_MACHINES.find(({ id }) => id === 'cutter')!;
  const small = machineFrom({ ...cutter, id: 'old-cutter', name: 'Old cutter', limits: { moves: 1000, bytes: 100 } });
  const asked = recipeOf('hpgl', { machine: machineWord(small) });
  const { findings: found, job } = await machineFit(master, asked, services);
  expect([found.map(({ kind, unit }) => [kind, unit]), job]).toEqual([[['over a limit', 'bytes']], null]);
  expect(found[0]!.words).toContain('the Old cutter holds 100');
  await expect(derive(revision(master), asked, services)).rejects.toMatchObject({ code: 'does-not-fit' });
});

describe('lines that lie on others in part', () => {
  const fits = async (master: Master, options: object = {}) =>
    (await machineFit(master, recipeOf('hpgl', { machine: 'cutter', ...options } as never), services)).findings;
  const worked = async (master: Master, options: object) => {
    const { projection, files, defects } = await derive(
      revision(master),
      recipeOf('hpgl', { machine: 'cutter', ...options } as never),
      services,
    );
    expect(defects).toEqual([]);
    const path = projection.leaves[0]!.body as ToolPath;
    let length = 0;
    for (let stroke = 0; stroke < path.count; stroke++)
      for (let k = path.firstPoint[stroke]! + 1; k < path.firstPoint[stroke + 1]!; k++)
        length += Math.hypot(path.points[2 * k]! - path.points[2 * k - 2]!, path.points[2 * k + 1]! - path.points[2 * k - 1]!);
    return { length, runs: BENCH['cutter']!(files[0]!.bytes).runs };
  };

  it.each([
    ['an edge that two cards have in common', cards(card('a', 20, 20), card('b', 60, 20)), 30],
    ['part of an edge', cards(card('a', 20, 20), card('b', 60, 35)), 15],
    ['a card within the corner of another', cards(card('a', 20, 20), card('b', 20, 20, 20, 10)), 30],
    ['edges on both sides', cards(card('a', 20, 20), card('c', 100, 20), card('b', 60, 20)), 60],
  ])('%s is found, and worked once or twice as is asked', async (_, master, shared) => {
    const [found, ...more] = await fits(master);
    expect(more).toEqual([]);
    expect(found).toMatchObject({ kind: 'doubled line', objects: ['b'], unit: 'mm' });
    expect(found!.amount).toBeCloseTo(shared, 1);
    for (const doubles of ['once', 'twice']) expect(await fits(master, { doubles })).toEqual([]);
    const [twice, once] = [await worked(master, { doubles: 'twice' }), await worked(master, { doubles: 'once' })];
    expect(once.runs && twice.runs).toBe(true);
    expect(twice.length - once.length).toBeCloseTo(shared, 0);
  });

  it('is nothing where a tool with a width goes beside them, where they only touch, and where they cross', async () => {
    const cross = (id: string, points: [number, number][]): Item => ({
      kind: 'polyline',
      id,
      name: id,
      layer: 'cut',
      style: lined('#14213a'),
      points,
      closed: false,
    });
    expect(await fits(cards(card('a', 20, 20), card('b', 60, 50)))).toEqual([]);
    const crossed = cards(
      cross('a', [
        [20, 20],
        [80, 60],
      ]),
      cross('b', [
        [20, 60],
        [80, 20],
      ]),
      cross('c', [
        [80, 60],
        [120, 60],
      ]),
    );
    expect(await fits(crossed, { open: 'as they are' })).toEqual([]);
    expect(await findings(made(plate('one', 50, 50), plate('two', 170, 50)))).toEqual([]);
  });

  it('is found for round corners and circles as a whole, and says how much of the copy is left out', async () => {
    const round = (id: string, width: number): Item => ({ ...card(id, 20, 20, width, 30), radius: 6 }) as Item;
    const master = cards(round('a', 60), round('b', 40));
    const [found] = await fits(master);
    // The left side, two corners and what they have of the lower and the upper side.
    expect(found!.amount).toBeCloseTo(18 + Math.PI * 6 + 2 * (40 - 12), 1);
    const { report } = await derive(revision(master), recipeOf('hpgl', { machine: 'cutter', doubles: 'once' }), services);
    expect(report.lines.some(({ becomes }) => becomes.includes('in part on lines of others'))).toBe(true);
  });
});

describe('what keeps a part from being made', () => {
  it('is nothing where it fits', async () => {
    expect(await findings(made(plate('plate', 50, 50), disc('hole', 100, 90, 8)))).toEqual([]);
  });

  it.each(WRONG)('%s is found, with its place and how much', async (kind, master, amount) => {
    const found = named(await findings(master), kind);
    expect(found).toBeDefined();
    expect(found!.objects).toHaveLength(1);
    const { minX, minY, maxX, maxY } = found!.place!;
    expect([minX, minY, maxX, maxY].every(Number.isFinite)).toBe(true);
    if (amount === null) expect(found!.amount).toBeNull();
    else expect(found!.amount).toBeCloseTo(amount, 1);
  });

  it.each(WRONG)('%s: nothing is written until it is settled, and each way to settle it does', async (kind, master) => {
    await expect(derive(revision(master), recipe(), services)).rejects.toMatchObject({ code: 'does-not-fit' });
    const { mends } = named(await findings(master), kind)!;
    expect(mends.length).toBeGreaterThan(0);
    for (const { options } of mends) expect(named(await findings(master, options), kind)).toBeUndefined();
  });

  it('says which side of the bed, and that the tool is half its width outside of the outline', async () => {
    const [one] = await findings(made(plate('low', 1, 20)));
    expect(one).toMatchObject({ kind: 'off the bed', amount: 2 });
    expect(one!.words).toContain('left');
  });

  it('counts places on the board from the board, wherever the part is laid on the machine', async () => {
    const master = made(plate('plate', 100, 100), disc('pin', 150, 140, 2));
    const [drawn] = await findings(master);
    const [moved] = await findings(master, { place: 'at the origin' });
    expect(named(await findings(master, { place: 'in the middle', mirrored: 'yes' }), 'hole too small')!.place!.minX).toBeCloseTo(
      148,
      6,
    );
    expect(drawn!.place!.minX).toBeCloseTo(148, 6);
    expect(moved!.place).toEqual(drawn!.place);
  });

  it('leaves what is printed, noted or for another machine alone', async () => {
    const printed = made(plate('plate', 50, 50), plate('picture', 880, 10, 100, 80, { layer: 'print' }));
    expect(await findings(printed)).toEqual([]);
    const { report } = await derive(revision(printed), recipe(), services);
    expect(report.lines.find(({ objects }) => objects.includes('picture'))).toMatchObject({
      outcome: 'left out',
      becomes: 'not for this machine',
    });
  });

  it('says more than one place of an object once, with its count', async () => {
    const window = plate('window', 70, 70, 40, 30, { radius: 0 } as Partial<Item>);
    const corners = (await findings(made(plate('plate', 50, 50), window))).filter(({ kind }) => kind === 'tight corner');
    expect(corners).toHaveLength(1);
    expect(corners[0]!.words).toContain('4 corners');
  });
});

describe('corners that are cut into', () => {
  const square = made(plate('plate', 50, 50), plate('window', 70, 70, 40, 30, { radius: 0 } as Partial<Item>));
  const sharp = made(
    plate('plate', 50, 50),
    line(
      'wedge',
      [
        [70, 70],
        [120, 70],
        [120, 84],
      ],
      true,
    ),
  );

  it('are reached by the edge of the tool, where they are square', async () => {
    expect(await findings(square, { corners: 'opened' })).toEqual([]);
    const text = async (options: Record<string, unknown>) =>
      new TextDecoder().decode((await derive(revision(square), recipe(options), services)).files[0]!.bytes);
    // The middle of the tool goes to where its edge touches the corner: 3 mm from it, along its diagonal.
    const near = 70 + 3 / Math.SQRT2;
    const reached = (await text({ corners: 'opened' })).includes(`X${near.toFixed(4).replace(/0+$/, '')}`);
    expect(reached).toBe(true);
    expect((await text({ corners: 'rounded' })).includes(`X${near.toFixed(4).replace(/0+$/, '')}`)).toBe(false);
  });

  it('have to be left round where that would cut too much away', async () => {
    const [one] = await findings(sharp, { corners: 'opened' });
    expect(one).toMatchObject({ kind: 'tight corner', mends: [{ options: { corners: 'rounded' } }] });
  });
});

describe('the order of work', () => {
  it('changes tools as seldom as it can', async () => {
    const holes = [100, 130].map((x, i) => disc(`pin ${i}`, x, 90, 2, { work: { tool: 2 } }));
    const master = made(plate('plate', 50, 50, 200), disc('window', 180, 90, 8), ...holes);
    const { files } = await derive(revision(master), recipe(), services);
    const tools = [...new TextDecoder().decode(files[0]!.bytes).matchAll(/^T(\d) M6$/gm)].map(([, number]) => number);
    expect(tools).toEqual(['2', '1']);
  });
});

describe('a machine of one’s own', () => {
  const router = SHIPPED_MACHINES.find(({ id }) => id === 'router')!;

  it.each([
    [
      'a pass deeper than the flute',
      { ...router, tools: [{ ...router.tools[0]!, pass: 30 }] },
      /pass is deeper \(30 mm\) than its flute \(22 mm\)/,
    ],
    ['a number twice', { ...router, tools: [router.tools[0]!, router.tools[0]!] }, /number twice/],
    ['a mill without a width', { ...router, tools: [{ ...router.tools[0]!, diameter: 0 }] }, /width/],
    ['a bed of 0', { ...router, area: { width: 0, height: 600, depth: 80 } }, /area width/],
    ['no tools', { ...router, tools: [] }, /tools/],
    ['another file', { format: 'something else' }, /no machine/],
  ])('is refused with %s, in words', (_, profile, words) => {
    expect(() => machineFrom(profile)).toThrow(words);
  });

  it('travels in the recipe as a whole, so that its copies can be checked anywhere', async () => {
    const own = machineFrom({
      ...router,
      id: 'small-router',
      name: 'Small router',
      area: { width: 300, height: 200, depth: 60 },
    });
    const word = machineWord(own);
    expect(word).toContain('small-router');
    expect(machineWord(router)).toBe('router');
    const found = await findings(made(plate('plate', 250, 50)), { machine: word });
    expect(found[0]!.words).toContain('Small router');
  });

  it('takes its own tool for a layer, or an object', async () => {
    const master = made(plate('plate', 50, 50), disc('pin', 100, 90, 2, { work: { tool: 2 } }));
    expect(await findings(master)).toEqual([]);
    const { files } = await derive(revision(master), recipe(), services);
    const text = new TextDecoder().decode(files[0]!.bytes);
    expect(text.indexOf('T2 M6')).toBeGreaterThan(0);
    // The hole before the plate that it is in.
    expect(text.indexOf('(pin)')).toBeLessThan(text.indexOf('(plate)'));
  });
});

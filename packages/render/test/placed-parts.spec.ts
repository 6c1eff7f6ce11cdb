import {
  applyPatches,
  checkCopy,
  derive,
  footprintHash,
  recipeOf,
  type ChartPlan,
  type Item,
  type Master,
  type Services,
  addFormats,
  bringInAny,
  makePlaced,
  partWishes,
  planChart,
} from '@inkwell-twin/core';
import { seriesMaster, seriesTable } from '../../core/test/series';
import { chartEngine, nodeFormats, pictureEngine, solidEngine } from '../src';
import { chartSvg } from '../src/engines/charts';
import { masterOf as partMaster, plate, services as partMeans, time } from './part';

addFormats(nodeFormats);
const services: Services = { ...partMeans, solids: solidEngine, charts: chartEngine };
type Of<K extends Item['kind']> = Extract<Item, { kind: K }>;
const texts = (items: readonly Item[]): Of<'text'>[] =>
  items.flatMap((item) => (item.kind === 'text' ? [item] : item.kind === 'group' ? texts(item.items) : []));
const polylines = (items: readonly Item[]): Of<'polyline'>[] =>
  items.filter((item): item is Of<'polyline'> => item.kind === 'polyline');

describe('a view of a solid', () => {
  const solid = plate();
  const master = partMaster(solid);
  const made = (rest: object) =>
    makePlaced(
      {
        kind: 'solid-view',
        id: 'v',
        layer: null,
        solid: solid.id,
        view: 'front',
        scale: 1,
        x: 100,
        y: 50,
        size: 3,
        ...rest,
      } as never,
      master,
      services,
    );
  const box = (items: readonly Item[]) => {
    const points = polylines(items).flatMap(({ points: list }) => list);
    const of = (k: 0 | 1) => points.map((point) => point[k]);
    return {
      width: Math.max(...of(0)) - Math.min(...of(0)),
      height: Math.max(...of(1)) - Math.min(...of(1)),
      x: (Math.max(...of(0)) + Math.min(...of(0))) / 2,
      y: (Math.max(...of(1)) + Math.min(...of(1))) / 2,
    };
  };

  it('stands about its place, at its scale', async () => {
    const [one, half] = [box(await made({})), box(await made({ scale: 0.5 }))];
    expect(one.x).toBeCloseTo(100, 4);
    expect(one.y).toBeCloseTo(50, 4);
    expect(half.width).toBeCloseTo(one.width / 2, 4);
    expect(one.width).toBeCloseTo(60, 4);
  });

  it('front and back are as wide as each other, left is as wide as top is high', async () => {
    const of = async (view: string) => box(await made({ view }));
    const [front, back, left, right, top, bottom] = await Promise.all(
      ['front', 'back', 'left', 'right', 'top', 'bottom'].map(of),
    );
    expect(back!.width).toBeCloseTo(front!.width, 4);
    expect(left!.width).toBeCloseTo(top!.height, 4);
    expect(right!.width).toBeCloseTo(left!.width, 4);
    expect(bottom!.width).toBeCloseTo(top!.width, 4);
    expect(left!.height).toBeCloseTo(front!.height, 4);
  });

  it('hidden edges are dashed, or left out', async () => {
    const dashed = polylines(await made({})).filter(({ style }) => style.dash?.length);
    expect(dashed.length).toBeGreaterThan(0);
    expect(polylines(await made({ hidden: 'left out' })).filter(({ style }) => style.dash?.length)).toEqual([]);
  });

  it('states what it measures, whatever its scale; in space it states nothing', async () => {
    const said = async (rest: object) => texts(await made({ dimensions: 'overall', ...rest })).map(({ text }) => text);
    const [one, half] = [await said({}), await said({ scale: 0.5 })];
    expect(one).toEqual(half);
    expect(one).toContain('60');
    expect(await said({ view: 'isometric' })).toEqual([]);
    expect(await said({ dimensions: 'none' })).toEqual([]);
    const all = await said({ view: 'top', dimensions: 'overall and holes' });
    expect(all.filter((text) => text.includes('Ø')).length).toBe(4);
  });
});

describe('a picture of a solid', () => {
  const master = partMaster(plate());
  const recipe = (target: string, options = {}) => recipeOf(target, options, { of: 'solids', ids: [] });
  const full: Services = { ...services, pictures: pictureEngine };

  it.each(['png', 'jpeg', 'webp', 'tiff'])(
    'is made, read back and checked, and the report says that there is no way back: %s',
    async (target) => {
      const { files, says, defects, report } = await derive({ master, rev: 1, time }, recipe(target, { width: 300 }), full);
      expect(defects).toEqual([]);
      expect(report.lines.map(({ becomes }) => becomes)).toContain('become a picture: no solid can be made of it again');
      const input = { files, intact: true, says, recipe: recipe(target, { width: 300 }), current: master, baseline: master };
      expect((await checkCopy(input, full, true)).verdict).toBe('in step');
      await expect(bringInAny(files[0]!.bytes, `x.${target}`, full, partWishes())).resolves.toMatchObject({
        master: { boards: [{}] },
      });
    },
  );

  it('follows the solid: what changes its shape outdates it, what does not leaves it', async () => {
    const hash = (one: Master) => footprintHash(one, recipe('png'));
    const set = (attribute: string, value: unknown, node = 'p1') =>
      applyPatches(master, [{ op: 'set', node, attribute, value }]).master;
    expect(hash(set('value', 70))).not.toBe(hash(master));
    expect(hash(set('colour', '#112233', 'plate'))).toBe(hash(master));
    const views = await Promise.all(
      ['isometric', 'top', 'front'].map(
        async (view) => (await derive({ master, rev: 1, time }, recipe('png', { view, width: 200 }), full)).says,
      ),
    );
    expect(new Set(views).size).toBe(3);
  });
});

describe('a table on a board', () => {
  const master = seriesMaster(seriesTable(40));
  const table = master.tables![0]!;
  const made = (rest: object, of: Master = master) =>
    makePlaced(
      {
        kind: 'table-frame',
        id: 't',
        layer: null,
        table: table.id,
        x: 10,
        y: 20,
        width: 200,
        height: 60,
        size: 3,
        ...rest,
      } as never,
      of,
      services,
    ) as Item[];

  it('shows the rows that there is room for, beneath their headings', () => {
    const items = made({});
    const rows = new Set(texts(items).map(({ y }) => y.toFixed(3)));
    expect(rows.size).toBe(Math.floor(60 / (3 * 1.75)));
    const heads = texts(items).filter(({ font }) => font === 'Work Sans Bold');
    expect(heads.length).toBe(table.columns.length);
    expect(Math.min(...heads.map(({ y }) => y))).toBeGreaterThan(
      Math.max(
        ...texts(items)
          .filter(({ font }) => font !== 'Work Sans Bold')
          .map(({ y }) => y),
      ),
    );
  });

  it('is never wider than its frame: its letters become smaller', () => {
    for (const width of [200, 80, 30]) {
      const items = made({ width });
      const right = Math.max(...polylines(items).flatMap(({ points }) => points.map(([x]) => x)));
      expect(right).toBeLessThanOrEqual(10 + width + 1e-6);
      expect(Math.max(...texts(items).map(({ size }) => size))).toBeLessThanOrEqual(3);
    }
  });

  it('numbers end, words begin beneath their headings', () => {
    const numbers = table.columns.filter(({ type }) => type === 'number').length;
    const heads = texts(made({})).filter(({ font }) => font === 'Work Sans Bold');
    expect(heads.filter(({ align }) => align === 'end').length).toBe(numbers);
  });

  it('without columns or without room it shows nothing but its headings', () => {
    expect(texts(made({ height: 6 })).length).toBe(table.columns.length);
    const empty = { ...master, tables: [{ ...table, columns: [], rows: [], summaries: [] }] };
    expect(made({}, empty)).toEqual([]);
  });
});

describe('a chart', () => {
  const plan = (rest: Partial<ChartPlan> = {}): ChartPlan => ({
    width: 120,
    height: 80,
    size: 3,
    form: 'lines',
    scale: 'numbers',
    across: 'Week',
    up: 'Gloss (GU)',
    series: [
      {
        name: 'Reed oil',
        points: [
          [0, 42],
          [1, 41],
          [2, 39.5],
        ],
      },
    ],
    ...rest,
  });
  const drawn = async (one: ChartPlan) => {
    const { master, notUnderstood } = await bringInAny(
      new TextEncoder().encode(await chartSvg(one)),
      'chart.svg',
      services,
      partWishes(),
    );
    expect(notUnderstood.filter(({ shows }) => shows)).toEqual([]);
    const [board] = master.boards;
    return { words: texts(board!.items).map(({ text }) => text), width: board!.width, height: board!.height };
  };

  it('has the size that its frame has, and says what lies along it and over it', async () => {
    const { words, width, height } = await drawn(plan());
    expect(width).toBeCloseTo(120, 1);
    expect(height).toBeCloseTo(80, 1);
    expect(words).toEqual(expect.arrayContaining(['Week', 'Gloss (GU)']));
    // One alone needs no name.
    expect(words).not.toContain('Reed oil');
  });

  it.each(['lines', 'bars', 'points'] as const)('several are named: %s', async (form) => {
    const series = ['Reed oil', 'Fen wax'].map((name, i) => ({
      name,
      points: [
        [0, 40 + i],
        [1, 38 + i],
      ] as const,
    }));
    expect((await drawn(plan({ form, series }))).words).toEqual(expect.arrayContaining(['Reed oil', 'Fen wax']));
  });

  it('days are written as days, words as they are', async () => {
    const days = [
      {
        name: 'a',
        points: [
          [20_500, 1],
          [20_600, 2],
        ] as const,
      },
    ];
    expect((await drawn(plan({ scale: 'days', series: days }))).words.some((word) => /^2026-\d\d-\d\d$/.test(word))).toBe(true);
    const words = [
      {
        name: 'a',
        points: [
          ['larch', 1],
          ['cedar', 2],
        ] as const,
      },
    ];
    expect((await drawn(plan({ scale: 'words', form: 'bars', series: words }))).words).toEqual(
      expect.arrayContaining(['larch', 'cedar']),
    );
  });

  it('is the same each time, and of nothing is empty', async () => {
    expect(await chartSvg(plan())).toBe(await chartSvg(plan()));
    await expect(drawn(plan({ series: [] }))).resolves.toMatchObject({ words: expect.any(Array) });
  });

  it('of a table: means of what stands in one place, each where it is asked for, apart by a column', () => {
    const master = seriesMaster();
    const table = master.tables![0]!;
    const number = table.columns.find(({ type, formula }) => type === 'number' && formula === undefined)!;
    const category = table.columns.find(({ type }) => type === 'category');
    const chart = {
      kind: 'chart-frame',
      id: 'c',
      layer: null,
      table: table.id,
      form: 'points',
      x: 0,
      y: 0,
      width: 90,
      height: 60,
      size: 3,
      up: number.id,
    } as const;
    const each = planChart({ ...chart, take: 'each' } as never, master);
    expect(each.series.flatMap(({ points }) => points).length).toBe(
      table.rows.filter(({ cells }) => typeof cells[number.id] === 'number').length,
    );
    if (category) {
      const apart = planChart({ ...chart, by: category.id, across: category.id } as never, master);
      const mean = (values: number[]) => values.reduce((sum, one) => sum + one, 0) / values.length;
      for (const { name, points } of apart.series) {
        const own = table.rows
          .filter(({ cells }) => cells[category.id] === name)
          .flatMap(({ cells }) => (typeof cells[number.id] === 'number' ? [cells[number.id] as number] : []));
        expect(points).toEqual([[name, expect.closeTo(mean(own), 9)]]);
      }
    }
    expect(() => planChart({ ...chart, up: table.columns.find(({ type }) => type === 'text')!.id } as never, master)).toThrow(
      /no column of numbers/,
    );
  });
});

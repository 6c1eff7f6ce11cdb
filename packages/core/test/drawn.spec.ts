// What draws by a rule: measures that are computed, texts with slots, motif lines, dimensions.
import fc from 'fast-check';
import {
  type Item,
  type Master,
  type MotifLine,
  type Parameter,
  type Patch,
  applyPatches,
  boxOfItem,
  compareAs,
  derive,
  drawnMaster,
  drawnObjects,
  footprintHash,
  moveItems,
  project,
  recipeOf,
  renameParameter,
  removeParameter,
  resolveBoard,
  setAttribute,
  setFormula,
  usesOfParameter,
  addParameter,
  runAlong,
} from '../src';
import { board, lined, masterWith, rectangle, text } from './build';
import { services } from './flat';

const parameters: Parameter[] = [
  { id: 'p1', name: 'width', value: 120, measure: 'length' },
  { id: 'p2', name: 'holes', value: 4 },
  { id: 'p3', name: 'trail', value: 'Sedge', measure: 'text' },
  { id: 'p4', name: 'ink', value: '#17796a', measure: 'colour' },
];
const leaf = {
  id: 'leaf',
  name: 'Leaf',
  anchor: [0, 0] as const,
  items: [
    { ...rectangle('blade', -2, 0, { width: 4, height: 6, style: lined('#17796a', 0.4) }), layer: null } as Item,
    { ...text('letter', 'R', { x: 0, y: 1, size: 3 }), layer: null } as Item,
  ],
};
const line = (more: Partial<MotifLine> = {}): MotifLine => ({
  kind: 'motif-line',
  id: 'border',
  layer: 'print',
  outlines: [{ start: [10, 20], segments: [{ kind: 'line', to: [110, 20] }], closed: false }],
  symbol: 'leaf',
  spacing: 20,
  manner: 'follow',
  ...more,
});
const measure = (more: object = {}): Item =>
  ({
    kind: 'dimension',
    id: 'dim',
    layer: 'print',
    style: lined('#14213a', 0.2),
    from: { of: 'panel', spot: 'left foot' },
    to: { of: 'panel', spot: 'right foot' },
    along: 'across',
    away: -6,
    size: 4,
    digits: 1,
    unit: 'mm',
    ...more,
  }) as Item;
const panel = rectangle('panel', 10, 10, { formulas: { width: 'width - 20', 'style.stroke': 'ink' } });
const sign = (items: Item[], more: Partial<Master> = {}): Master => masterWith(items, { parameters, symbols: [leaf], ...more });
const whole = (): Master =>
  sign([
    panel,
    line(),
    measure(),
    text('name', '{trail} {holes}', { slots: true, runs: [{ from: 0, to: 7, colour: '#c23b22' }] }),
    measure({ id: 'of-text', from: { of: 'name', spot: 'left' }, to: { of: 'name', spot: 'right' } }),
  ]);
const entries = (master: Master) => resolveBoard(master, board(master)).entries;
const says = async (master: Master, target = 'svg') => (await project(master, recipeOf(target, {}), services)).projection;

describe('computed measures', () => {
  it('are what their formulas come to, and change with a parameter', () => {
    const master = sign([panel]);
    expect(boxOfItem(resolveBoard(master, board(master)), 'panel')).toMatchObject({ minX: 10, maxX: 110 });
    expect(entries(master)[0]!.style.stroke).toBe('#17796a');
    const now = applyPatches(master, setAttribute(master, 'p1', 'value', 200).patches).master;
    expect(boxOfItem(resolveBoard(now, board(now)), 'panel')).toMatchObject({ minX: 10, maxX: 190 });
  });

  it('leave everything else the same object, so that what is known of it stays known', () => {
    const others = Array.from({ length: 50 }, (_, i) => rectangle(`r${i}`, i, 5));
    const master = sign([panel, ...others, line()]);
    const now = applyPatches(master, setAttribute(master, 'p2', 'value', 9).patches).master;
    const [a, b] = [drawnMaster(master).master, drawnMaster(now).master];
    expect(board(b).items.every((item, i) => item === board(a).items[i])).toBe(true);
    expect(b.symbols).toBe(a.symbols);
  });

  it('that can’t be computed say why where they stand, keep their last value, and no copy is made of them', async () => {
    const bad: [Record<string, string>, string][] = [
      [{ width: 'widht' }, 'There is no parameter “widht”'],
      [{ width: 'ink' }, 'It comes to a text, and a length is needed.'],
      [{ width: 'width * width' }, 'It comes to an area, and a length is needed.'],
      [{ width: '-width' }, 'must be above zero'],
      [{ 'style.stroke': 'trail' }, 'a colour such as #2b4180 is needed'],
      [{ kind: '3' }, 'can’t be computed'],
    ];
    for (const [formulas, words] of bad) {
      const master = sign([rectangle('r', 0, 0, { formulas })]);
      const { problems } = drawnMaster(master);
      expect(problems).toEqual([{ node: 'r', attribute: Object.keys(formulas)[0], message: expect.stringContaining(words) }]);
      expect(boxOfItem(resolveBoard(master, board(master)), 'r')).toMatchObject({ maxX: 40 });
      await expect(says(master)).rejects.toMatchObject({ code: 'formula', message: expect.stringContaining(words) });
    }
  });

  it('go on being computed when they are moved, and no more when a value is given', () => {
    const master = sign([rectangle('r', 0, 0, { formulas: { x: 'width / 2 - 12' } })]);
    const moved = applyPatches(master, moveItems(master, ['r'], 4, 3).patches).master;
    expect(board(moved).items[0]).toMatchObject({ formulas: { x: 'width / 2 - 8' }, y: 3 });
    const given = applyPatches(moved, setAttribute(moved, 'r', 'x', 7).patches).master;
    expect(board(given).items[0]).toMatchObject({ x: 7 });
    expect(board(given).items[0]).not.toHaveProperty('formulas');
    const back = applyPatches(given, setFormula(given, 'r', 'style.strokeWidth', '1/4 in').patches);
    expect(entries(back.master)[0]!.style.strokeWidth).toBeCloseTo(6.35);
    expect(applyPatches(back.master, back.inverse).master).toEqual(given);
  });

  it('reach boards', () => {
    const master = sign([], {
      boards: [{ id: 'b1', name: 'Front', width: 5, height: 50, background: null, formulas: { width: '2 * width' }, items: [] }],
    });
    expect(resolveBoard(master, board(master)).board).toMatchObject({ width: 240, height: 50 });
  });

  it('are said in the carry-over report', async () => {
    const { report } = await project(whole(), recipeOf('svg', {}), services);
    const lines = Object.fromEntries(report.lines.map(({ feature, count }) => [feature, count]));
    expect(lines).toMatchObject({ formulas: 1, slots: 1, 'motif-line': 1, dimension: 2 });
  });
});

describe('parameters of a master', () => {
  it('are renamed everywhere at once', () => {
    const master = sign([panel, text('t', 'Trail {upper(trail)} {{trail}}', { slots: true })]);
    const one = applyPatches(master, renameParameter(master, 'p3', 'path').patches).master;
    const now = applyPatches(one, renameParameter(one, 'p1', 'breadth').patches).master;
    expect(board(now).items[0]).toMatchObject({ formulas: { width: 'breadth - 20' } });
    expect(board(now).items[1]).toMatchObject({ text: 'Trail {upper(path)} {{trail}}' });
    expect(drawnMaster(now).problems).toEqual([]);
    expect(() => renameParameter(now, 'p1', 'holes')).toThrow('There is a parameter “holes” already.');
  });

  it('say where they are used, and leave their value behind when they are taken away', () => {
    const master = whole();
    expect(usesOfParameter(master, 'trail').map(({ words }) => words)).toEqual(['“{trail} {holes}”: wording']);
    for (const { id } of parameters) {
      const now = applyPatches(master, removeParameter(master, id).patches).master;
      expect(drawnMaster(now).problems).toEqual([]);
      expect(entries(now).map((entry) => ({ ...entry, source: '' }))).toEqual(
        entries(master).map((entry) => ({ ...entry, source: '' })),
      );
    }
  });

  it('come in with a name of their own', () => {
    let master = masterWith([]);
    for (let i = 0; i < 3; i++) master = applyPatches(master, addParameter(master, {}, `n${i}`).patches).master;
    expect(master.parameters!.map(({ name }) => name)).toEqual(['value1', 'value2', 'value3']);
  });
});

describe('motif lines', () => {
  const placesOf = (master: Master) =>
    resolveBoard(master, board(master)).uses.map(({ at }) => at.slice(4).map((value) => Number(value.toFixed(3))));

  it('set marks in equal steps along the line, from where they begin, to the side', () => {
    expect(placesOf(sign([line()]))).toEqual([10, 30, 50, 70, 90, 110].map((x) => [x, 20]));
    expect(placesOf(sign([line({ offset: 5, aside: 3 })]))).toEqual([15, 35, 55, 75, 95].map((x) => [x, 23]));
    // Whole steps: 100 mm in seven of 14.29 rather than six of 15 and a rest.
    expect(placesOf(sign([line({ spacing: 15, even: true })]))).toHaveLength(8);
    expect(placesOf(sign([line({ spacing: 15, even: true })])).at(-1)).toEqual([110, 20]);
  });

  it('turn marks with the line or leave them upright, and go round what is closed without a mark twice', () => {
    const square = {
      start: [0, 0] as const,
      closed: true,
      segments: (
        [
          [40, 0],
          [40, 40],
          [0, 40],
        ] as const
      ).map((to) => ({ kind: 'line' as const, to })),
    };
    const master = sign([line({ outlines: [square], spacing: 20, offset: 10 })]);
    const turns = resolveBoard(master, board(master)).uses.map(({ at: [a, b] }) =>
      Math.round((Math.atan2(b, a) * 180) / Math.PI),
    );
    expect(turns).toEqual([0, 0, 90, 90, 180, 180, -90, -90]);
    const upright = sign([line({ outlines: [square], manner: 'upright' })]);
    expect(resolveBoard(upright, board(upright)).uses.every(({ at: [a, b] }) => a === 1 && b === 0)).toBe(true);
    expect(placesOf(upright)).toHaveLength(8);
  });

  it('end on other symbols where they are given', () => {
    const end = { id: 'end', name: 'End', anchor: [0, 0] as const, items: [] };
    const master = sign([line({ first: 'end', last: 'end' })], { symbols: [leaf, { ...end, items: [rectangle('cap', 0, 0)] }] });
    expect(resolveBoard(master, board(master)).uses.map(({ name }) => name)).toEqual([
      'End',
      'Leaf',
      'Leaf',
      'Leaf',
      'Leaf',
      'End',
    ]);
  });

  it('bend marks so that neighbours meet without a gap', () => {
    // A strip as long as the spacing, along a circle: outer and inner edges are whole circles.
    const strip = { ...leaf, items: [{ ...rectangle('strip', 0, -1, { width: 10, height: 2 }), layer: null } as Item] };
    const round = {
      start: [80, 50] as const,
      closed: true,
      segments: [
        { kind: 'arc' as const, to: [20, 50] as const, centre: [50, 50] as const, clockwise: false },
        { kind: 'arc' as const, to: [80, 50] as const, centre: [50, 50] as const, clockwise: false },
      ],
    };
    const master = sign([line({ outlines: [round], manner: 'bend', spacing: 10, even: true })], { symbols: [strip] });
    const all = entries(master);
    expect(all.length).toBe(19);
    const corners = all
      .map((entry) => (entry.kind === 'path' ? entry.outlines[0]! : null)!)
      .map(({ start, segments }) => [start, ...segments.map(({ to }) => to)]);
    for (const points of corners)
      for (const [x, y] of points) {
        const r = Math.hypot(x - 50, y - 50);
        expect(Math.min(Math.abs(r - 29), Math.abs(r - 31)) < 0.05 || (r > 28.9 && r < 31.1)).toBe(true);
      }
    // Steps are 2π·30 / 19 = 9.92 long, the strip 10: each reaches the next.
    const angles = (points: readonly (readonly number[])[]) => points.map(([x, y]) => Math.atan2(y! - 50, x! - 50));
    for (let i = 0; i < corners.length - 1; i++) {
      const [end, start] = [Math.max(...angles(corners[i]!).filter((a) => a > -3)), angles(corners[i + 1]!)[0]!];
      if (Math.abs(end - start) < 1) expect(end).toBeGreaterThan(start - 1e-6);
    }
  });

  it('belong together: whatever is said of a mark is said of the line', () => {
    const master = sign([line()]);
    expect(new Set(entries(master).map(({ source }) => source))).toEqual(new Set(['border']));
    expect(entries(master).every(({ within }) => within[0]!.id === 'border')).toBe(true);
    const wide = applyPatches(master, setAttribute(master, 'leaf', 'name', 'Frond').patches).master;
    expect(resolveBoard(wide, board(wide)).uses[0]!.name).toBe('Frond');
  });

  it('that would be endless, or whose symbol is gone or holds itself, are refused in words', async () => {
    const endless = sign([
      line({ spacing: 0.1, outlines: [{ start: [0, 0], segments: [{ kind: 'line', to: [100000, 0] }], closed: false }] }),
    ]);
    expect(drawnMaster(endless).problems[0]!.message).toMatch(/draws 1 000 001 objects.*at most 250 000/);
    const gone = sign([line({ symbol: 'none' })]);
    await expect(says(gone)).rejects.toMatchObject({ code: 'symbol-missing' });
    for (const manner of ['follow', 'bend'] as const) {
      const itself = sign([line({ manner })], { symbols: [{ ...leaf, items: [line({ id: 'inner', manner, layer: null })] }] });
      await expect(says(itself)).rejects.toMatchObject({ message: expect.stringMatching(/itself|deep|objects/) });
    }
  });

  it('count in what a board draws', () => {
    const master = sign([line()]);
    expect(drawnObjects(drawnMaster(master).master, board(drawnMaster(master).master))).toBe(12);
  });
});

describe('a run along a line', () => {
  it('is as long as the line, whatever it is made of', () => {
    const half = {
      start: [10, 0] as const,
      closed: false,
      segments: [{ kind: 'arc' as const, to: [-10, 0] as const, centre: [0, 0] as const, clockwise: false }],
    };
    const run = runAlong(half);
    expect(run.length).toBeCloseTo(Math.PI * 10, 2);
    const { at, direction } = run.at(run.length / 2);
    expect([at[0], at[1]].map((value) => Math.round(value * 100) / 100)).toEqual([expect.closeTo(0), 10]);
    expect(Math.abs(direction)).toBeCloseTo(Math.PI, 2);
    // Beyond its ends it goes straight on.
    expect(run.at(run.length + 5).at[1]).toBeCloseTo(-5, 1);
  });
  it('of a single point stays there', () =>
    expect(runAlong({ start: [3, 4], segments: [], closed: true }).at(9).at).toEqual([3, 4]));
});

describe('dimensions', () => {
  const words = (master: Master) =>
    entries(master).flatMap((entry) => (entry.kind === 'text' && entry.source === 'dim' ? [entry.text] : []));
  it('say what they are attached to, and follow it', () => {
    const master = sign([panel, measure()]);
    expect(words(master)).toEqual(['100.0']);
    const now = applyPatches(master, setAttribute(master, 'p1', 'value', 90).patches).master;
    expect(words(now)).toEqual(['70.0']);
    expect(words(sign([panel, measure({ unit: 'in', digits: 3, before: '⌀ ', after: ' in' })]))).toEqual(['⌀ 3.937 in']);
    expect(words(sign([panel, measure({ from: { at: [0, 0] }, to: { at: [30, 40] }, along: 'straight' })]))).toEqual(['50.0']);
    expect(words(sign([panel, measure({ to: { of: 'panel', spot: 'right top' }, along: 'up' })]))).toEqual(['20.0']);
  });

  it('measure what stands in turned groups, uses of symbols and motif lines, as it lies on the board', () => {
    const group: Item = {
      kind: 'group',
      id: 'g',
      layer: 'cut',
      transform: [0, 1, -1, 0, 100, 0],
      items: [rectangle('in', 0, 0)],
    };
    expect(words(sign([group, measure({ from: { of: 'in', spot: 'left' }, to: { of: 'in', spot: 'right' } })]))).toEqual([
      '20.0',
    ]);
    const use: Item = { kind: 'use', id: 'u', layer: 'cut', transform: [2, 0, 0, 2, 0, 0], symbol: 'leaf' };
    const across = (id: string) => measure({ from: { of: id, spot: 'left' }, to: { of: id, spot: 'right' } });
    expect(words(sign([use, across('u')]))).toEqual(['8.0']);
    expect(words(sign([line(), across('border')]))).toEqual(['104.0']);
  });

  it('whose object is gone are told, and left out of no copy in silence', async () => {
    const master = sign([measure()]);
    expect(drawnMaster(master).problems[0]!.message).toContain('not on this board any more');
    await expect(says(master)).rejects.toMatchObject({ code: 'formula' });
  });

  it('move away from what they measure', () => {
    const master = sign([panel, measure()]);
    const moved = applyPatches(master, moveItems(master, ['dim'], 5, -3).patches).master;
    expect(board(moved).items[1]).toMatchObject({ away: -9 });
    expect(words(moved)).toEqual(['100.0']);
  });
});

describe('copies of what draws by a rule', () => {
  const acts: Patch[] = [
    { op: 'set', node: 'p1', attribute: 'value', value: 140 },
    { op: 'set', node: 'p2', attribute: 'value', value: 7 },
    { op: 'set', node: 'p3', attribute: 'value', value: 'Mere' },
    { op: 'set', node: 'p4', attribute: 'value', value: '#c23b22' },
    { op: 'set', node: 'panel', attribute: 'x', value: 14 },
    { op: 'set', node: 'panel', attribute: 'formulas.width', value: 'width - 30' },
    { op: 'set', node: 'panel', attribute: 'formulas.width', value: undefined },
    { op: 'set', node: 'border', attribute: 'spacing', value: 25 },
    { op: 'set', node: 'border', attribute: 'manner', value: 'bend' },
    { op: 'set', node: 'border', attribute: 'aside', value: 2 },
    { op: 'set', node: 'blade', attribute: 'width', value: 5 },
    { op: 'set', node: 'dim', attribute: 'digits', value: 2 },
    { op: 'set', node: 'dim', attribute: 'away', value: 8 },
    { op: 'set', node: 'name', attribute: 'font', value: 'Oswald' },
    { op: 'set', node: 'name', attribute: 'text', value: 'Sedye {holes}' },
    { op: 'set', node: 'b1', attribute: 'guides', value: [{ axis: 'x', at: 20 }] },
    { op: 'set', node: 'b1', attribute: 'gridStep', value: 5 },
    { op: 'insert', parent: 'm1', list: 'parameters', after: null, node: { id: 'p9', name: 'unused', value: 3 } },
  ];

  it.each(['svg', 'dxf', 'hpgl'])(
    'in %s: a change is in the footprint just where the copy says something else',
    async (target) => {
      const recipe = recipeOf(target, {});
      for (const patch of acts) {
        const [before, now] = [whole(), applyPatches(whole(), [patch]).master];
        const [a, b] = [await says(before, target), await says(now, target)];
        const differs = compareAs(recipe, b, a).differences.length > 0;
        const label = JSON.stringify(patch);
        if (differs) expect([label, footprintHash(before, recipe) === footprintHash(now, recipe)]).toEqual([label, false]);
        if (footprintHash(before, recipe) === footprintHash(now, recipe)) expect([label, a]).toEqual([label, b]);
      }
      // What only helps to lay things out, and what nothing is computed of, outdates no copy.
      for (const patch of acts.slice(-3))
        expect(footprintHash(applyPatches(whole(), [patch]).master, recipe)).toBe(footprintHash(whole(), recipe));
    },
  );

  it.each(['svg', 'dxf', 'hpgl'])('in %s read back as what was said', async (target) => {
    for (const manner of ['follow', 'upright', 'bend'] as const) {
      const master = applyPatches(whole(), [{ op: 'set', node: 'border', attribute: 'manner', value: manner }]).master;
      const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipeOf(target, {}), services);
      expect(made.defects).toEqual([]);
    }
  });

  it('say what the same master with the values put in would say', async () => {
    const master = sign([panel, line(), text('name', '{trail} {holes}', { slots: true })]);
    const baked = sign(
      [
        rectangle('panel', 10, 10, { width: 100, style: lined('#17796a') }),
        {
          kind: 'group',
          id: 'border',
          layer: 'print',
          items: [10, 30, 50, 70, 90, 110].map((x): Item => ({
            kind: 'use',
            id: `u${x}`,
            layer: null,
            transform: [1, 0, 0, 1, x, 20],
            symbol: 'leaf',
          })),
        },
        text('name', 'Sedge 4'),
      ],
      { parameters: [] },
    );
    for (const target of ['svg', 'dxf', 'hpgl'])
      expect(compareAs(recipeOf(target, {}), await says(master, target), await says(baked, target)).differences).toEqual([]);
  });

  it('go back to what they were when the edits are taken back', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(acts), (some) => {
        const master = whole();
        const done = applyPatches(master, some);
        expect(applyPatches(done.master, done.inverse).master).toEqual(master);
      }),
    );
  });
});

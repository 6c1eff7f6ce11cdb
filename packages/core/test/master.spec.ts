import fc from 'fast-check';
import {
  type PathEntry,
  type Item,
  type Master,
  Master as MasterSchema,
  type Patch,
  addItem,
  allItems,
  applyPatches,
  changesBetween,
  findNode,
  footprintHash,
  moveItems,
  newMaster,
  nodeHash,
  removeItems,
  resolveBoard,
  setAttribute,
  setLayerVisible,
  shiftInWords,
  stepOf,
  boxOfItem,
  boxOfOutlines,
  resizeItem,
  recipeOf,
} from '../src';

import { master } from './arbitrary';
import { board, filled, layer, lined, masterWith, rectangle, text } from './build';
import { atDepth, runs } from './depth';
import { cpuTime } from './cpu-time';

/** A random command on a random object of a master. */
const command = (now: Master, pick: number, kind: number, amount: number) => {
  const items = [...allItems(board(now).items)];
  const item = items[pick % items.length];
  if (!item) return addItem(board(now), rectangle('back again'.replace(' ', '-').slice(0, 4) + pick));
  if (kind === 0) return moveItems(now, [item.id], amount, -amount / 2);
  if (kind === 1 && 'style' in item) return setAttribute(now, item.id, 'style.fill', amount > 0 ? '#c23b22' : null);
  if (kind === 2 && 'style' in item) return setAttribute(now, item.id, 'style.stroke', amount > 0 ? '#2b4180' : null);
  if (kind === 3) return setAttribute(now, item.id, 'layer', amount > 0 ? 'print' : 'cut');
  if (kind === 4) return setLayerVisible(now.layers[pick % now.layers.length]!, amount > 0);
  if (kind === 5 && items.length > 1) return removeItems(now, [item.id]);
  if (kind === 6) return setAttribute(now, now.layers[pick % now.layers.length]!.id, 'process', amount > 0 ? 'note' : 'cut');
  return addItem(board(now), rectangle(`new-${pick}-${kind}-${Math.round(amount * 100)}-${items.length}`, amount, 5));
};
const acts = fc.array(fc.tuple(fc.nat(30), fc.nat(7), fc.integer({ min: -20, max: 20 })), { minLength: 1, maxLength: 8 });

/** Milliseconds that something takes. */
const took = (run: () => void): number => {
  const begun = cpuTime();
  run();
  return cpuTime() - begun;
};
const many = (count: number) => masterWith(Array.from({ length: count }, (_, i) => rectangle(`r${i}`, i % 100, 5)));

const MANY = atDepth(4_000, 20_000);

describe(`patches on ${MANY} objects`, () => {
  it('cost what they touch: the thousandth small step as little as the first', () => {
    let now = many(MANY);
    const step = (i: number) =>
      took(() => (now = applyPatches(now, [{ op: 'set', node: `r${(i * 7919) % MANY}`, attribute: 'x', value: i }]).master));
    step(0);
    const costs = Array.from({ length: 1000 }, (_, i) => step(i)).sort((a, b) => a - b);
    expect(costs[500]).toBeLessThan(10);
    expect(costs[950]).toBeLessThan(60);
    expect(findNode(now, `r${(999 * 7919) % MANY}`)).toMatchObject({ x: 999 });
  });
  it('move every fifth in one step', () => {
    const start = many(MANY);
    const ids = Array.from({ length: MANY / 5 }, (_, i) => `r${i * 5}`);
    let after = start;
    expect(took(() => (after = applyPatches(start, moveItems(start, ids, 1, 0).patches).master))).toBeLessThan(5000);
    expect(board(after).items.filter((item, i) => item !== board(start).items[i])).toHaveLength(MANY / 5);
  });
  it.each([
    ['one after the other', (i: number) => (i ? `n${i - 1}` : null)],
    ['always at the front', () => null],
    ['here and there', (i: number) => `r${(i * 7919) % MANY}`],
  ])('put as many more in, %s, and take them out again', (_, after) => {
    const start = many(MANY);
    const patches = Array.from({ length: MANY }, (__, i): Patch => ({
      op: 'insert',
      parent: 'b1',
      list: 'items',
      after: after(i),
      node: rectangle(`n${i}`),
    }));
    let done!: ReturnType<typeof applyPatches>;
    expect(took(() => (done = applyPatches(start, patches)))).toBeLessThan(20_000);
    expect(board(done.master).items).toHaveLength(2 * MANY);
    expect(board(applyPatches(done.master, done.inverse).master).items).toEqual(board(start).items);
  });
});

describe('patches', () => {
  it('lead there and back again, whatever the commands', () => {
    fc.assert(
      fc.property(master, acts, (start, list) => {
        let now = start;
        const inverses: Patch[][] = [];
        for (const [pick, kind, amount] of list) {
          const done = applyPatches(now, command(now, pick, kind, amount).patches);
          inverses.unshift(done.inverse);
          now = done.master;
          expect(MasterSchema.safeParse(now).success).toBe(true);
        }
        for (const inverse of inverses) now = applyPatches(now, inverse).master;
        expect(now).toEqual(start);
      }),
      { numRuns: runs(80) },
    );
  });

  it('that tell two masters apart make one into the other', () => {
    fc.assert(
      fc.property(master, acts, (start, list) => {
        let now = start;
        for (const [pick, kind, amount] of list) now = applyPatches(now, command(now, pick, kind, amount).patches).master;
        const patches = JSON.parse(JSON.stringify(changesBetween(start, now))) as Patch[];
        expect(nodeHash(applyPatches(start, patches).master)).toBe(nodeHash(now));
      }),
      { numRuns: runs(80) },
    );
  });

  it('survive a journey through JSON, an attribute taken away included', () => {
    const start = masterWith([rectangle('r', 0, 0, { name: 'Frame' })]);
    const { step } = stepOf(start, 'unnamed', [{ op: 'set', node: 'r', attribute: 'name', value: undefined }]);
    const back = JSON.parse(JSON.stringify(step)) as typeof step;
    const after = applyPatches(start, back.forward).master;
    expect('name' in findNode(after, 'r')!).toBe(false);
    expect(applyPatches(after, back.inverse).master).toEqual(start);
  });

  it('share everything that they do not touch', () => {
    const start = masterWith([rectangle('a'), rectangle('b')]);
    const after = applyPatches(start, moveItems(start, ['a'], 1, 1).patches).master;
    expect(board(after).items[1]).toBe(board(start).items[1]);
    expect(after.layers).toBe(start.layers);
  });

  it('keep to a place even when the same master is edited twice, in two directions', () => {
    const begun = masterWith(['a', 'b', 'c', 'd'].map((id) => rectangle(id)));
    const order = (one: Master) =>
      board(one)
        .items.map(({ id }) => id)
        .join('');
    const without = applyPatches(begun, removeItems(begun, ['a', 'b']).patches).master;
    const more = applyPatches(begun, [{ op: 'insert', parent: 'b1', list: 'items', after: 'a', node: rectangle('n') }]).master;
    expect([order(begun), order(without), order(more)]).toEqual(['abcd', 'cd', 'anbcd']);
    expect(order(applyPatches(without, removeItems(without, ['d']).patches).master)).toBe('c');
    expect(() =>
      applyPatches(more, [...removeItems(more, ['n']).patches, { op: 'set', node: 'n', attribute: 'x', value: 1 }]),
    ).toThrow('no object n');
    expect(order(applyPatches(more, removeItems(more, ['b']).patches).master)).toBe('ancd');
  });

  const start = masterWith([rectangle('a')]);
  const group = (id: string, ...items: Item[]): Item => ({ kind: 'group', id, layer: null, items });
  const twice = group('g', rectangle('n'), rectangle('n'));
  const known = group('g', rectangle('a'));
  const deep = (count: number): Item =>
    Array.from({ length: count }).reduce<Item>((inner, _, i) => group(`g${i}`, inner), rectangle('n'));
  it.each<[string, Patch, string]>([
    ['an object that is not there', { op: 'set', node: 'zz', attribute: 'x', value: 1 }, 'node-missing'],
    ['a number that is none', { op: 'set', node: 'a', attribute: 'x', value: Number.NaN }, 'patch-invalid'],
    ['a width of nothing', { op: 'set', node: 'a', attribute: 'width', value: 0 }, 'patch-invalid'],
    ['a colour that is none', { op: 'set', node: 'a', attribute: 'style.fill', value: 'red' }, 'patch-invalid'],
    ['its id', { op: 'set', node: 'a', attribute: 'id', value: 'b' }, 'patch-invalid'],
    ['a list as a whole', { op: 'set', node: 'b1', attribute: 'items', value: [] }, 'patch-invalid'],
    ['an attribute that its kind does not have', { op: 'set', node: 'a', attribute: 'points', value: [[0, 0]] }, 'patch-invalid'],
    ['a part that a style does not have', { op: 'set', node: 'a', attribute: 'style.glow', value: 3 }, 'patch-invalid'],
    ['an attribute that nothing has, taken away', { op: 'set', node: 'a', attribute: 'glow', value: undefined }, 'patch-invalid'],
    ['a part of a part', { op: 'set', node: 'a', attribute: 'style.fill.red', value: '#14213a' }, 'patch-invalid'],
    ['a part of what has none', { op: 'set', node: 'a', attribute: 'x.y', value: 3 }, 'patch-invalid'],
    ['an object that holds an id twice', { op: 'insert', parent: 'b1', list: 'items', after: null, node: twice }, 'id-taken'],
    ['an object that holds a known id', { op: 'insert', parent: 'b1', list: 'items', after: null, node: known }, 'id-taken'],
    ['groups without end', { op: 'insert', parent: 'b1', list: 'items', after: null, node: deep(5000) }, 'too-deep'],
    [
      'a place after what is elsewhere',
      { op: 'insert', parent: 'b1', list: 'items', after: 'cut', node: group('n') },
      'node-missing',
    ],
    ['a prototype', { op: 'set', node: 'a', attribute: '__proto__', value: {} }, 'patch-invalid'],
    ['an id that is taken', { op: 'insert', parent: 'b1', list: 'items', after: null, node: rectangle('a') }, 'id-taken'],
    [
      'an item of no known kind',
      { op: 'insert', parent: 'b1', list: 'items', after: null, node: { kind: 'blob', id: 'x' } },
      'patch-invalid',
    ],
    ['a place after nothing', { op: 'insert', parent: 'b1', list: 'items', after: 'zz', node: rectangle('x') }, 'node-missing'],
    ['the last board', { op: 'remove', parent: 'm1', list: 'boards', node: 'b1' }, 'last-one'],
  ])('refuse %s', (_, patch, code) => {
    expect(() => applyPatches(start, [patch])).toThrow(expect.objectContaining({ code }));
    expect(board(start).items).toHaveLength(1);
  });
});

describe('commands', () => {
  const one = masterWith([
    rectangle('r', 10, 10, { name: 'Frame' }),
    { kind: 'group', id: 'g', layer: 'cut', transform: [0, 1, -1, 0, 50, 0], items: [rectangle('inner', 0, 0, { layer: null })] },
    {
      kind: 'path',
      id: 'p',
      layer: 'cut',
      style: lined('#000000'),
      outlines: [{ start: [0, 0], segments: [{ kind: 'line', to: [5, 5] }], closed: false }],
      transform: [2, 0, 0, 2, 1, 1],
    },
  ]);
  const boxAfter = (id: string, dx: number, dy: number) => {
    const after = applyPatches(one, moveItems(one, [id], dx, dy).patches).master;
    return resolveBoard(after, board(after))
      .entries.filter(({ source }) => source === id)
      .map((entry) => boxOfOutlines((entry as PathEntry).outlines))[0]!;
  };

  it.each(['r', 'p'])('move %s by what was asked on the board', (id) => {
    const [before, after] = [boxAfter(id, 0, 0), boxAfter(id, 7, -3)];
    expect(after.minX - before.minX).toBeCloseTo(7);
    expect(after.maxY - before.maxY).toBeCloseTo(-3);
  });
  it('move an object inside a turned group along the board, not along the group', () => {
    const after = boxAfter('inner', 4, 0);
    expect(after.minX - boxAfter('inner', 0, 0).minX).toBeCloseTo(4);
    expect(after.minY).toBeCloseTo(boxAfter('inner', 0, 0).minY);
  });
  it.each(['p', 'g'])('give %s another size about its lower left corner', (id) => {
    const before = boxOfItem(resolveBoard(one, board(one)), id)!;
    const after = applyPatches(one, resizeItem(one, id, before, 60, 15).patches).master;
    const box = boxOfItem(resolveBoard(after, board(after)), id)!;
    expect([box.minX, box.minY, box.maxX - box.minX, box.maxY - box.minY].map((value) => Math.round(value * 1e6) / 1e6)).toEqual([
      before.minX,
      before.minY,
      60,
      15,
    ]);
  });
  it('resize nothing where nothing is', () =>
    expect(resizeItem(one, 'zz', { minX: 0, minY: 0, maxX: 1, maxY: 1 }, 2, 2).patches).toEqual([]));
  it('say what they did in words', () => {
    expect(moveItems(one, ['r'], 4, 0).label).toBe('Frame on Front: moved 4 mm right');
    expect(setAttribute(one, 'r', 'width', 50).label).toBe('Frame on Front: width now 50');
    expect(removeItems(one, ['r', 'p']).label).toBe('2 objects deleted');
    expect(shiftInWords(-2, 3)).toBe('2 mm left and 3 mm up');
  });
  it('start a master from a purpose with a size that fits it', () => {
    expect(MasterSchema.parse(newMaster('id-1', 'Sheet', 'Ines Okoro', 'sheet')).boards[0]).toMatchObject({
      width: 210,
      height: 297,
    });
  });
});

describe('resolving', () => {
  it('expands symbol uses with their transforms, anchors and the layer of the use', () => {
    const master = masterWith([{ kind: 'use', id: 'u', layer: 'print', transform: [2, 0, 0, 2, 100, 50], symbol: 's' }], {
      symbols: [{ id: 's', name: 'S', anchor: [5, 5], items: [rectangle('in', 5, 5, { layer: null, width: 10, height: 10 })] }],
    });
    const [entry] = resolveBoard(master, board(master)).entries;
    expect(entry).toMatchObject({ layer: 'print', source: 'u', style: { strokeWidth: 1 } });
    expect(boxOfOutlines((entry as PathEntry).outlines)).toMatchObject({ minX: 100, minY: 50, maxX: 120, maxY: 70 });
  });
  it('leaves hidden layers out and names their objects', () => {
    const master = masterWith([rectangle('a'), rectangle('b', 0, 0, { layer: 'print' })], {
      layers: [layer('cut'), layer('print', 'print', { visible: false })],
    });
    const { entries, hidden } = resolveBoard(master, board(master));
    expect(entries.map(({ source }) => source)).toEqual(['a']);
    expect(hidden).toEqual(['b']);
  });
  it('ends on a symbol that uses itself, with a word about it', () => {
    const loop: Item = { kind: 'use', id: 'u', layer: null, symbol: 's' };
    const master = masterWith([{ ...loop, id: 'top' }], { symbols: [{ id: 's', name: 'S', anchor: [0, 0], items: [loop] }] });
    expect(() => resolveBoard(master, board(master))).toThrow(expect.objectContaining({ code: 'symbol-cycle' }));
  });
  it('gives a text one entry each line, and says what a group does to them as one', () => {
    const master = masterWith([
      {
        kind: 'group',
        id: 'g',
        layer: 'cut',
        opacity: 0.5,
        items: [text('t', 'one\n\ntwo', { style: { ...filled('#000000'), opacity: 0.5 } })],
      },
    ]);
    const { entries, spans } = resolveBoard(master, board(master));
    expect(entries.map((entry) => (entry.kind === 'text' ? entry.text : ''))).toEqual(['one', 'two']);
    expect(entries[0]!.style.opacity).toBe(0.5);
    expect(spans).toMatchObject([{ first: 0, end: 2, source: 'g', look: { opacity: 0.5 } }]);
    expect(entries[0]!.kind === 'text' && entries[1]!.kind === 'text' && entries[0]!.frame[5] - entries[1]!.frame[5]).toBeCloseTo(
      30,
    );
  });
});

describe('hashes', () => {
  it('are equal for equal content and different after any change', () => {
    const [a, b] = [masterWith([rectangle('a')]), masterWith([rectangle('a')])];
    expect(nodeHash(a)).toBe(nodeHash(b));
    expect(nodeHash(applyPatches(a, moveItems(a, ['a'], 0.01, 0).patches).master)).not.toBe(nodeHash(a));
  });
});

describe('footprints', () => {
  const recipes = ['svg', 'dxf', 'hpgl'].map((target) => recipeOf(target, {}));
  const hashOf = (master: Master, index: number) => footprintHash(master, recipes[index]!);
  const [SVG, DXF, HPGL] = [0, 1, 2];
  const start = masterWith([rectangle('a'), rectangle('p', 60, 10, { layer: 'print' }), text('t', 'Sedge')]);
  const after = (id: string, attribute: string, value: unknown) =>
    applyPatches(start, setAttribute(start, id, attribute, value).patches).master;
  const changed = (next: Master) => [SVG, DXF, HPGL].map((index) => hashOf(start, index!) !== hashOf(next, index!));

  it.each<[string, Master, boolean[]]>([
    ['a fill: only where fills are', after('a', 'style.fill', '#c23b22'), [true, false, false]],
    ['a line colour: not on the machine', after('a', 'style.stroke', '#c23b22'), [true, true, false]],
    ['a width: everywhere', after('a', 'width', 41), [true, true, true]],
    ['something to print: not on the machine', after('p', 'x', 61), [true, true, false]],
    ['wording that is cut: everywhere', after('t', 'text', 'Sedges'), [true, true, true]],
    ['a name: nowhere', after('a', 'name', 'Frame'), [false, false, false]],
    ['the background: only where it is carried', after('b1', 'background', '#ffffff'), [true, false, false]],
    ['the board’s size: only where there is a sheet', after('b1', 'width', 210), [true, false, false]],
    ['a layer’s process, from cut to print', after('cut', 'process', 'print'), [false, false, true]],
    ['a layer’s colour', after('cut', 'colour', '#c23b22'), [false, true, false]],
    ['hiding a layer', after('print', 'visible', false), [true, true, false]],
  ])('change with %s', (_, next, expected) => expect(changed(next)).toEqual(expected));

  it('do not change with the order of things where order means nothing', () => {
    const turned = masterWith([...board(start).items].reverse());
    expect([SVG, DXF, HPGL].map((index) => hashOf(start, index!) !== hashOf(turned, index!))).toEqual([true, false, true]);
  });
});

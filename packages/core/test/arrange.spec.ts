// Acts on objects: laying in line, ordering, grouping, mapping, symbols, copies to other places, measuring.
import fc from 'fast-check';
import {
  ALIGNMENTS,
  type Alignment,
  Clip,
  type Item,
  type Master,
  alignItems,
  applyPatches,
  boxesOf,
  canonical,
  copyItems,
  groupItems,
  joinBoxes,
  makeMotifLine,
  makeSymbol,
  mapItems,
  measureItems,
  multiply,
  orderItems,
  pasteItems,
  placeSymbol,
  resolveBoard,
  rotation,
  scaling,
  spreadItems,
  translation,
  ungroupItems,
  usesOfSymbol,
} from '../src';
import type { Command, Order } from '../src';
import { board, layer, lined, masterWith, rectangle, text } from './build';
import { richMaster } from './rich';
import { runs } from './depth';

const done = (master: Master, command: Command): Master => applyPatches(master, command.patches).master;
const boxOf = (master: Master, id: string) => boxesOf(master, [id])[0]!.box;
const ids = (master: Master): string[] => board(master).items.map(({ id }) => id);
/** What a board looks like, whatever it is made of: outlines and words with their looks, in order. */
const seen = (master: Master, which = 0) =>
  resolveBoard(master, master.boards[which]!).entries.map((entry) => {
    const look = entry.kind === 'path' ? [entry.outlines, entry.style] : [entry.text, entry.frame, entry.size, entry.style];
    const rounded = (key: string, value: unknown) =>
      key === 'cell' ? '' : typeof value === 'number' ? Number(value.toFixed(5)) + 0 : value;
    return canonical(JSON.parse(JSON.stringify(look, rounded)));
  });

const three = () =>
  masterWith([
    rectangle('a', 0, 0),
    rectangle('b', 60, 30, { width: 10, height: 10 }),
    {
      kind: 'group',
      id: 'g',
      layer: 'print',
      transform: [0, 1, -1, 0, 150, 50],
      items: [rectangle('c', 0, 0, { layer: null }), rectangle('d', 0, 30, { layer: null })],
    },
  ]);

describe('laying in line', () => {
  it.each(Object.keys(ALIGNMENTS) as Alignment[])('%s: of all that is chosen', (how) => {
    const all = ['a', 'b', 'g'];
    const master = done(three(), alignItems(three(), all, how));
    const { axis, share } = ALIGNMENTS[how];
    const at = ({ minX, maxX, minY, maxY }: ReturnType<typeof boxOf>) =>
      axis ? minY + share * (maxY - minY) : minX + share * (maxX - minX);
    const wanted = at(joinBoxes(boxesOf(three(), all).map(({ box }) => box)));
    for (const id of all) expect(at(boxOf(master, id))).toBeCloseTo(wanted, 4);
  });
  it('of one object with its board', () => {
    const master = done(three(), alignItems(three(), ['b'], 'right'));
    expect(boxOf(master, 'b')).toMatchObject({ maxX: 200, minY: 30 });
  });
  it('leaves equal gaps, and the outermost where they are', () => {
    const items = [
      rectangle('a', 0, 0, { width: 10 }),
      rectangle('b', 12, 5, { width: 20 }),
      rectangle('c', 90, 9, { width: 10 }),
    ];
    const master = done(masterWith(items), spreadItems(masterWith(items), ['c', 'a', 'b'], 'across'));
    expect(['a', 'b', 'c'].map((id) => boxOf(master, id).minX)).toEqual([0, 40, 90]);
    expect(spreadItems(master, ['a', 'b'], 'up').patches).toEqual([]);
  });
});

describe('order', () => {
  const five = masterWith(['a', 'b', 'c', 'd', 'e'].map((id) => rectangle(id)));
  it.each<[Order, string[], string]>([
    ['top', ['b', 'd'], 'acebd'],
    ['bottom', ['b', 'd'], 'bdace'],
    ['up', ['b'], 'acbde'],
    ['up', ['b', 'c'], 'adbce'],
    ['down', ['d'], 'abdce'],
    ['up', ['e'], 'abcde'],
    ['down', ['a'], 'abcde'],
  ])('%s of %j gives %s', (order, chosen, expected) => {
    const { master, inverse } = applyPatches(five, orderItems(five, chosen, order).patches);
    expect(ids(master).join('')).toBe(expected);
    expect(applyPatches(master, inverse).master).toEqual(five);
  });
});

describe('groups', () => {
  it('are made where the uppermost lies, and taken apart, with nothing seen to change', () => {
    const before = masterWith([
      rectangle('a'),
      rectangle('b', 30, 30),
      text('t', 'Mere'),
      rectangle('c', 50, 5, { layer: 'print' }),
    ]);
    const grouped = done(before, groupItems(before, ['t', 'b', 'c'], 'g'));
    expect(ids(grouped)).toEqual(['a', 'g']);
    expect(seen(grouped)).toEqual(seen(before));
    const apart = done(grouped, ungroupItems(grouped, ['g']));
    expect(seen(apart)).toEqual(seen(before));
    expect(ids(apart)).toEqual(['a', 'b', 't', 'c']);
  });
  it('of turned groups keep what is in them where it is', () => {
    const before = three();
    const apart = done(before, ungroupItems(before, ['g']));
    expect(seen(apart)).toEqual(seen(before));
    const mixed = done(before, groupItems(before, ['a', 'c'], 'h'));
    expect([...seen(mixed)].sort()).toEqual([...seen(before)].sort());
  });
  it('that do something to what is in them are not taken apart, and one object is no group', () => {
    const faded = masterWith([{ kind: 'group', id: 'g', layer: 'cut', opacity: 0.5, items: [rectangle('a')] }]);
    expect(() => ungroupItems(faded, ['g'])).toThrow('would be lost');
    expect(() => groupItems(faded, ['g'])).toThrow('two objects or more');
  });
});

describe('mapping objects', () => {
  it('gives shapes other measures and leaves their lines as wide as they are', () => {
    const master = masterWith([rectangle('a'), text('t', 'Mere')]);
    const wide = done(master, mapItems(master, ['a', 't'], scaling(2), 'twice as large'));
    expect(board(wide).items[0]).toMatchObject({ x: 20, y: 20, width: 80, height: 40, style: lined('#14213a') });
    expect(board(wide).items[1]).toMatchObject({ x: 40, y: 100, size: 24 });
    expect(board(wide).items.every((item) => !('transform' in item))).toBe(true);
  });
  it('moves everything that is seen by the map, and back by its inverse, whatever it is', () => {
    const map = multiply(translation(12, -7), multiply(rotation(0.4), scaling(1.5)));
    const back = multiply(scaling(1 / 1.5), multiply(rotation(-0.4), translation(-12, 7)));
    fc.assert(
      fc.property(richMaster, (master) => {
        const all = ids(master).filter((id) => id !== 'outer');
        const now = done(master, mapItems(master, all, map, 'turned'));
        const again = done(now, mapItems(now, all, back, 'turned back'));
        const near = (one: Master) =>
          resolveBoard(one, board(one)).entries.map((entry) =>
            (entry.kind === 'path' ? entry.outlines.map(({ start }) => start) : entry.frame.slice(4)).flat().flat(),
          );
        near(again).forEach((values, i) =>
          values.forEach((value, k) => expect(value).toBeCloseTo(near(master)[i]![k] as number, 4)),
        );
      }),
      { numRuns: runs(30) },
    );
  });
  it('counts from what is computed now', () => {
    const parameters = [{ id: 'p', name: 'w', value: 100 }];
    const master = masterWith([rectangle('a', 0, 0, { formulas: { width: 'w' } })], { parameters });
    const now = done(master, mapItems(master, ['a'], scaling(0.5), 'half'));
    expect(board(now).items[0]).toMatchObject({ width: 50 });
    expect(board(now).items[0]).not.toHaveProperty('formulas');
  });
});

describe('symbols', () => {
  it('are made of objects, with nothing seen to change, and all uses follow an edit', () => {
    const before = masterWith([rectangle('a'), rectangle('b', 30, 12), text('t', 'Mere')]);
    const made = done(before, makeSymbol(before, ['a', 'b'], 'Post', { symbolId: 's', useId: 'u' }));
    expect(seen(made)).toEqual(seen(before));
    expect(ids(made)).toEqual(['u', 't']);
    expect(made.symbols[0]).toMatchObject({ id: 's', name: 'Post', anchor: [40, 10] });
    const twice = done(made, placeSymbol(made, board(made), 's', [120, 40], 'cut', 'u2'));
    const edited = applyPatches(twice, [{ op: 'set', node: 'a', attribute: 'height', value: 33 }]).master;
    expect(boxOf(edited, 'u').maxY).toBe(43);
    expect(boxOf(edited, 'u2').maxY).toBe(73);
    expect(usesOfSymbol(edited, 's')).toHaveLength(2);
    const again = done(made, makeSymbol(made, ['t'], 'Post'));
    expect(again.symbols[1]!.name).toBe('Post 2');
  });
  it('of objects in a turned group stay where they are', () => {
    const made = done(three(), makeSymbol(three(), ['c', 'd'], 'Pair'));
    expect([...seen(made)].sort()).toEqual([...seen(three())].sort());
  });
  it('become a motif line in one step, along a shape or by themselves', () => {
    const base = masterWith([
      rectangle('a', 0, 0, { width: 8, height: 8 }),
      { kind: 'ellipse', id: 'ring', layer: 'print', style: lined('#14213a'), cx: 100, cy: 50, rx: 30, ry: 30 },
    ]);
    const made = done(base, makeSymbol(base, ['a'], 'Dot', { symbolId: 's', useId: 'u' }));
    const along = done(made, makeMotifLine(made, ['u', 'ring'], { id: 'm' }));
    expect(ids(along)).toEqual(['m']);
    // 188.5 mm round, in whole steps of about 8.
    expect(resolveBoard(along, board(along)).uses).toHaveLength(24);
    const alone = done(made, makeMotifLine(made, ['u'], { id: 'm' }));
    expect(resolveBoard(alone, board(alone)).uses.map(({ at }) => at[4])).toEqual([4, 12, 20, 28, 36]);
    expect(() => makeMotifLine(made, ['ring'])).toThrow('choose the use of one');
  });
});

describe('objects taken to another place', () => {
  it('look there as they looked here, whatever they are made of', () => {
    fc.assert(
      fc.property(richMaster, (master) => {
        const clip = Clip.parse(JSON.parse(JSON.stringify(copyItems(master, ids(master)))));
        const empty = { ...masterWith([]), id: 'm2', layers: [layer('other', 'note')] };
        const { command, ids: laid } = pasteItems(empty, board(empty), clip);
        const there = done(empty, command);
        expect(seen(there)).toEqual(seen(master));
        // Once more in the same place: symbols and layers are there already.
        const twice = done(there, pasteItems(there, board(there), clip).command);
        expect([twice.symbols.length, twice.layers.length]).toEqual([there.symbols.length, there.layers.length]);
        expect(new Set([...laid, ...ids(twice)]).size).toBe(2 * laid.length);
      }),
      { numRuns: runs(30) },
    );
  });
  it('bring what they are computed of, and dimensions go with what they measure', () => {
    const parameters = [
      { id: 'p1', name: 'w', value: 'base * 2' },
      { id: 'p2', name: 'base', value: 20 },
      { id: 'p3', name: 'other', value: 1 },
    ];
    let master = masterWith([rectangle('a', 0, 0, { formulas: { width: 'w' } })], { parameters });
    master = done(master, measureItems(master, board(master), ['a'], 'across', { id: 'd' }));
    const clip = copyItems(master, ['a', 'd'])!;
    expect(clip.parameters.map(({ name }) => name)).toEqual(['w', 'base']);
    const other = { ...masterWith([]), id: 'm2', parameters: [{ id: 'q', name: 'base', value: 30 }] };
    const { command, ids: laid } = pasteItems(other, board(other), clip, [5, 5]);
    const there = done(other, command);
    expect(boxOf(there, laid[0]!)).toMatchObject({ minX: 5, maxX: 65 });
    expect(seen(there).some((one) => one.includes('"60.0"'))).toBe(true);
  });
  it('that show what is in another master stay behind, and it is said', () => {
    const frame = { kind: 'text-frame', id: 'f', layer: 'print', text: 't1', x: 0, y: 0, width: 50, height: 50, size: 4 } as Item;
    const master = masterWith([frame, rectangle('a')], { texts: [{ id: 't1', name: 'Words', language: 'en', blocks: [] }] });
    const other = { ...masterWith([]), id: 'm2' };
    const { left, ids: laid } = pasteItems(other, board(other), copyItems(master, ['f', 'a'])!);
    expect([left, laid.length]).toEqual([['text frame: what it shows is in another master'], 1]);
    expect(() => pasteItems(other, board(other), copyItems(master, ['f'])!)).toThrow('Nothing of this can be laid down here');
    expect(pasteItems(master, board(master), copyItems(master, ['f'])!).left).toEqual([]);
  });
});

describe('measuring', () => {
  it('takes one object or the way between two', () => {
    const master = masterWith([rectangle('a', 20, 40), rectangle('b', 120, 40)]);
    const says = (chosen: string[], along: 'across' | 'up' | 'straight') => {
      const now = done(master, measureItems(master, board(master), chosen, along));
      return resolveBoard(now, board(now)).entries.flatMap((entry) => (entry.kind === 'text' ? [entry.text] : []));
    };
    expect(says(['a'], 'across')).toEqual(['40.0']);
    expect(says(['a'], 'up')).toEqual(['20.0']);
    expect(says(['a', 'b'], 'straight')).toEqual(['100.0']);
    expect(() => measureItems(master, board(master), [], 'up')).toThrow('choose one or two');
  });
});

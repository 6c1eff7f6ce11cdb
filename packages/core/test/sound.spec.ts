import fc from 'fast-check';
import { strToU8, unzipSync, zipSync } from 'fflate';
import {
  type Board,
  type Item,
  type Master,
  type Patch,
  type SymbolDefinition,
  applyPatches,
  assertSound,
  assertStaysSound,
  digest,
  readPackage,
  writePackage,
} from '../src';
import { master as anyMaster } from './arbitrary';
import { layer, masterWith, rectangle } from './build';
import { runs } from './depth';

const use = (id: string, symbol: string): Item => ({ kind: 'use', id, layer: null, symbol });
const symbol = (id: string, ...items: Item[]): SymbolDefinition => ({ id, name: id, anchor: [0, 0], items });
const boardOf = (more: Partial<Board>): Board => ({
  id: 'b1',
  name: 'Front',
  width: 200,
  height: 100,
  background: null,
  items: [],
  ...more,
});
/** Ten levels of ten uses each: small as a document, a thousand million objects when opened. */
const doubling = Array.from({ length: 10 }, (_, level) =>
  symbol(
    `s${level}`,
    ...(level
      ? Array.from({ length: 10 }, (__, i) => use(`u${level}-${i}`, `s${level - 1}`))
      : [rectangle('dot', 0, 0, { layer: null } as never)]),
  ),
);

/** What no document may be, by what a person is told of it. */
const WRONG: readonly [string, Master, RegExp][] = [
  ['a symbol in itself', masterWith([use('u', 'a')], { symbols: [symbol('a', use('in', 'a'))] }), /a uses itself/],
  [
    'symbols in each other',
    masterWith([use('u', 'a')], {
      symbols: [symbol('a', use('1', 'b')), symbol('b', use('2', 'c')), symbol('c', use('3', 'a'))],
    }),
    /uses itself, directly or through another/,
  ],
  ['a layer of nothing', masterWith([rectangle('r', 0, 0, { layer: 'gone' })]), /on a layer that is not there \(gone\)/],
  ['a symbol of nothing', masterWith([use('u', 'gone')]), /a symbol that is not there \(gone\)/],
  ['ids twice', masterWith([rectangle('r'), rectangle('r', 50)]), /Two of its parts have one id, r/],
  ['an id in two kinds of parts', masterWith([rectangle('cut')]), /Two of its parts have one id, cut/],
  ['pieces without end', masterWith([use('all', 's9')], { symbols: doubling }), /about 1e\+9 objects.*at most 250 000/],
];
/** What the schema refuses. */
const UNFIT: readonly [string, Master][] = [
  ['a board of 1e308 mm', { ...masterWith([]), boards: [boardOf({ width: 1e308 })] }],
  ['a board of 1000 km', { ...masterWith([]), boards: [boardOf({ height: 1e9 })] }],
  ['a thing at 1e300 mm', masterWith([rectangle('r', 1e300)])],
  ['a turn of 1e200', masterWith([rectangle('r', 0, 0, { transform: [1e200, 0, 0, 1, 0, 0] })])],
];
/** A native file that holds a document as it is, whatever is wrong with it. */
function packageOf(document: unknown): Uint8Array {
  const whole = unzipSync(
    writePackage({ master: masterWith([]), rev: 1, time: '2026-11-29T10:00:00.000Z', history: null, resources: new Map() }),
  );
  const text = typeof document === 'string' ? document : JSON.stringify(document);
  whole['master.json'] = strToU8(text);
  const manifest = JSON.parse(new TextDecoder().decode(whole['manifest.json'])) as {
    entries: { path: string; sha256: string }[];
  };
  for (const entry of manifest.entries) if (entry.path === 'master.json') entry.sha256 = digest(whole['master.json']);
  whole['manifest.json'] = strToU8(JSON.stringify(manifest));
  return zipSync(whole as Record<string, Uint8Array>, { level: 0 });
}

describe('a document that comes in', () => {
  it.each(WRONG)('is refused in a native file: %s', (_, document, words) => {
    expect(() => assertSound(document)).toThrow(words);
    expect(() => readPackage(packageOf(document))).toThrow(words);
  });
  it.each(UNFIT)('is refused by its schema: %s', (_, document) => {
    expect(() => readPackage(packageOf(document))).toThrow(/master.json: .*(100 000 km|100 km)/);
  });
  it('is refused in words, however deep it is nested', () => {
    for (const deep of ['['.repeat(5000) + ']'.repeat(5000), `{"a":${'{"a":'.repeat(5000)}1${'}'.repeat(5001)}`])
      expect(() => readPackage(packageOf(deep))).toThrow('master.json is nested deeper than 400 levels');
    let items: Item[] = [rectangle('in')];
    for (let i = 0; i < 250; i++) items = [{ kind: 'group', id: `g${i}`, layer: null, items } as Item];
    expect(() => readPackage(packageOf(masterWith(items)))).toThrow(/nested deeper than 400|deep in each other/);
  });
  it('is kept where nothing is wrong', () => {
    fc.assert(
      fc.property(anyMaster, (document) => {
        assertSound(document);
        expect(readPackage(packageOf(document)).master).toEqual(JSON.parse(JSON.stringify(document)));
      }),
      { numRuns: runs(60) },
    );
  });
});

describe('steps', () => {
  const whole = masterWith([rectangle('r'), use('u', 'a')], {
    symbols: [symbol('a', rectangle('in', 0, 0, { layer: null } as never)), symbol('b', use('ub', 'a')), ...doubling],
  });
  const put = (node: Item, parent = 'b1'): Patch => ({ op: 'insert', parent, list: 'items', after: null, node });
  const cases: readonly [string, Patch[], RegExp][] = [
    ['put a thing on a layer of nothing', [put(rectangle('x', 0, 0, { layer: 'gone' }))], /layer that is not there/],
    [
      'move a thing to a layer of nothing',
      [{ op: 'set', node: 'r', attribute: 'layer', value: 'gone' }],
      /layer that is not there/,
    ],
    ['show a symbol of nothing', [{ op: 'set', node: 'u', attribute: 'symbol', value: 'gone' }], /symbol that is not there/],
    ['put a symbol into itself', [put(use('x', 'b'), 'a')], /uses itself/],
    [
      'take a layer away on which something lies',
      [{ op: 'remove', parent: 'm1', list: 'layers', node: 'cut' }],
      /layer that is not there \(cut\)/,
    ],
    [
      'take a symbol away that is shown',
      [{ op: 'remove', parent: 'm1', list: 'symbols', node: 'a' }],
      /symbol that is not there \(a\)/,
    ],
    ['open into a thousand million pieces', [put(use('x', 's9'))], /about 1e\+9 objects/],
  ];
  it.each(cases)('that %s are refused', (_, patches, words) => {
    const { master: after } = applyPatches(whole, patches);
    expect(() => assertStaysSound(after, patches)).toThrow(words);
  });
  it('of one act that end well are taken, whatever was between', () => {
    const patches: Patch[] = [
      { op: 'remove', parent: 'm1', list: 'layers', node: 'cut' },
      { op: 'set', node: 'r', attribute: 'layer', value: 'print' },
      { op: 'set', node: 'u', attribute: 'layer', value: 'print' },
      { op: 'insert', parent: 'm1', list: 'layers', after: 'print', node: layer('new') },
      put(rectangle('x', 0, 0, { layer: 'new' })),
    ];
    const { master: after } = applyPatches(whole, patches);
    expect(() => assertStaysSound(after, patches)).not.toThrow();
  });
  it('are not refused for what was wrong before them', () => {
    const damaged = masterWith([rectangle('r', 0, 0, { layer: 'gone' }), rectangle('q')]);
    const patches: Patch[] = [{ op: 'set', node: 'q', attribute: 'x', value: 5 }, put(rectangle('x'))];
    expect(() => assertStaysSound(applyPatches(damaged, patches).master, patches)).not.toThrow();
  });
  it('bring nothing into the document that its schema does not know', () => {
    const style = { fill: '#112233', stroke: null, strokeWidth: 0, glow: 7, '': { nested: true } };
    const { master: after } = applyPatches(whole, [
      { op: 'set', node: 'r', attribute: 'style', value: style },
      put({ ...rectangle('x'), style, odd: 1 } as never),
    ]);
    expect(JSON.stringify(after)).not.toMatch(/glow|nested|odd/);
    expect(JSON.stringify(after)).toContain('#112233');
  });
});

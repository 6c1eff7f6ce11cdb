import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { Failure, type Item, assertOpens, drawnObjects, readPackage, recipeOf, resolveBoard, writePackage } from '../src';
import { masterWith, rectangle, text } from './build';
import { type FlatTarget, deriveFlat, project, targetById } from './flat';
import { isLong, runs } from './depth';
import { cpuTime } from './cpu-time';

const time = '2026-11-20T10:00:00.000Z';
const encode = (words: string): Uint8Array => new TextEncoder().encode(words);
const master = masterWith([
  rectangle('r', 10, 10, { radius: 3 }),
  {
    kind: 'ellipse',
    id: 'e',
    layer: 'print',
    style: { fill: '#17796a', stroke: null, strokeWidth: 0 },
    cx: 100,
    cy: 50,
    rx: 20,
    ry: 8,
  },
  text('t', 'Sedge & Öl'),
]);
const fixtures = join(__dirname, 'fixtures');
const samples: [FlatTarget, Uint8Array][] = ['svg', 'dxf', 'hpgl'].map((id) => {
  const recipe = recipeOf(id, {});
  return [targetById(id), targetById(id).write(project(master, recipe).projection, recipe.options, '')];
});
samples.push(
  [targetById('svg'), readFileSync(join(fixtures, 'weathervane.svg'))],
  [targetById('dxf'), readFileSync(join(fixtures, 'gate.dxf'))],
);

type Spoil = { kind: number; at: number; length: number; value: number; words: string };
const spoil = fc.record({
  kind: fc.nat(5),
  at: fc.nat(1_000_000),
  length: fc.nat(60),
  value: fc.nat(255),
  words: fc.constantFrom(
    'NaN',
    '1e999',
    '-',
    '<g>',
    '</svg>',
    '&x;',
    '\u0000',
    '99999999999',
    '0\nINSERT\n2\nPAIR\n',
    'PD;',
    '<use href="#vane"/>',
    '-0.0.1',
    '5\n5\n5\n',
  ),
});

/** Bytes after some damage: a byte changed, a stretch taken out or doubled, something put in, the end cut off. */
function spoiled(bytes: Uint8Array, damage: readonly Spoil[]): Uint8Array {
  let now = Buffer.from(bytes);
  for (const { kind, at, length, value, words } of damage) {
    const i = now.length ? at % now.length : 0;
    if (kind === 0 && now.length) now[i] = value;
    else if (kind === 1) now = Buffer.concat([now.subarray(0, i), now.subarray(i + length)]);
    else if (kind === 2) now = Buffer.concat([now.subarray(0, i + length), now.subarray(i)]);
    else if (kind === 3) now = Buffer.concat([now.subarray(0, i), Buffer.from(words), now.subarray(i)]);
    else if (kind === 4) now = now.subarray(0, i);
  }
  return new Uint8Array(now);
}

/** Runs a reader; anything but a result or a failure in words is a defect. */
function readsOrSaysWhy(read: () => unknown): void {
  const start = cpuTime();
  try {
    read();
  } catch (error) {
    if (!(error instanceof Failure)) throw error;
    expect(error.message.length).toBeGreaterThan(10);
    expect(error.code).not.toBe('unexpected');
  }
  expect(cpuTime() - start).toBeLessThan(20_000);
}

describe('readers under damage', () => {
  it.each(samples.map(([target, bytes], i) => [`${target.id} ${i < 3 ? 'of ours' : 'from elsewhere'}`, target, bytes] as const))(
    '%s: every damaged file is read or refused in words, in bounded time',
    (_, target, bytes) => {
      fc.assert(
        fc.property(fc.array(spoil, { minLength: 1, maxLength: 4 }), (damage) => {
          const bad = spoiled(bytes, damage);
          readsOrSaysWhy(() => target.read(bad));
          if (target.bringIn) readsOrSaysWhy(() => target.bringIn!(bad, 'bad'));
        }),
        { numRuns: runs(250) },
      );
    },
  );

  it('any bytes at all are refused in words', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), fc.constantFrom(...samples.map(([target]) => target)), (bytes, target) =>
        readsOrSaysWhy(() => target.read(bytes)),
      ),
      { numRuns: runs(300) },
    );
  });

  it('native packages: every damaged one is refused in words or is still the same master', () => {
    const bytes = writePackage({ master, rev: 1, time, history: null, resources: new Map() });
    fc.assert(
      fc.property(fc.array(spoil, { minLength: 1, maxLength: 3 }), (damage) => {
        readsOrSaysWhy(() => expect(readPackage(spoiled(bytes, damage)).master).toEqual(master));
      }),
      { numRuns: runs(250) },
    );
  });
});

describe('small files that would become large drawings', () => {
  const svgOf = (body: string) => encode(`<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">${body}</svg>`);
  const pairs = (words: string) =>
    encode(
      words
        .split('|')
        .join('\n')
        .replace(/^(\d+) /gm, '$1\n') + '\n',
    );
  /** Each level uses the one below ten times. */
  const nested = (levels: number) =>
    svgOf(
      `<defs><g id="g0"><rect width="1" height="1"/></g>${Array.from(
        { length: levels },
        (_, i) => `<g id="g${i + 1}">${`<use href="#g${i}"/>`.repeat(10)}</g>`,
      ).join('')}</defs><use href="#g${levels}"/>`,
    );
  const groups = (depth: number) => svgOf(`${'<g>'.repeat(depth)}<rect width="9" height="9"/>${'</g>'.repeat(depth)}`);
  const failure = (target: string, bytes: Uint8Array): Failure => {
    try {
      targetById(target).bringIn!(bytes, 'small');
    } catch (error) {
      return error as Failure;
    }
    throw new Error('it came in');
  };

  it('are counted while they are read, and refused with the count and the limit', () => {
    const begun = cpuTime();
    expect(nested(9).length).toBeLessThan(2500);
    expect(failure('svg', nested(9))).toMatchObject({
      code: 'too-many-objects',
      message: expect.stringMatching(/about 1e\+9 objects.*at most 250 000/),
    });
    const insert = '0 INSERT|8 0|2 K|10 0|20 0|70 100|71 100|44 1|45 1|';
    const block = '0 SECTION|2 BLOCKS|0 BLOCK|2 K|10 0|20 0|0 CIRCLE|8 0|10 0|20 0|40 1|0 ENDBLK|0 ENDSEC|';
    const grids = pairs(`${block}0 SECTION|2 ENTITIES|${insert.repeat(100)}0 ENDSEC|0 EOF`);
    expect(grids.length).toBeLessThan(10_000);
    expect(failure('dxf', grids)).toMatchObject({
      code: 'too-many-objects',
      message: expect.stringContaining('more than 250 000 objects'),
      where: { line: expect.any(Number) },
    });
    const single = '0 INSERT|8 0|2 K|10 0|20 0|';
    const many = () => pairs(`${block}0 SECTION|2 ENTITIES|${single.repeat(1_000_000)}0 ENDSEC|0 EOF`);
    if (isLong) expect(failure('dxf', many()).code).toBe('too-many-objects');
    expect(cpuTime() - begun).toBeLessThan(60_000);
  });
  it('a hundred thousand repeats come in, are derived and read back', () => {
    const { master } = targetById('svg').bringIn!(nested(4), 'repeats.svg');
    expect(drawnObjects(master, master.boards[0]!)).toBe(10_000);
    expect(() => assertOpens(master, master.boards[0]!)).not.toThrow();
  });
  it('what comes in can be derived, however deep its groups; what is deeper than that is refused with the depth', async () => {
    const { master } = targetById('svg').bringIn!(groups(90), 'deep.svg');
    const made = await deriveFlat(master, recipeOf('svg', {}));
    expect(made.defects).toEqual([]);
    expect(failure('svg', groups(150))).toMatchObject({
      code: 'too-deep',
      message: expect.stringMatching(/14\d deep.*at most 100/),
    });
  });
  it('symbols that use themselves are named', () => {
    const use = (id: string, symbol: string): Item => ({ kind: 'use', id, layer: null, symbol });
    const one = masterWith([use('u', 'a')], {
      symbols: [
        { id: 'a', name: 'Reed', anchor: [0, 0], items: [use('x', 'b')] },
        { id: 'b', name: 'Stalk', anchor: [0, 0], items: [use('y', 'a')] },
      ],
    });
    expect(() => resolveBoard(one, one.boards[0]!)).toThrow(expect.objectContaining({ code: 'symbol-cycle' }));
  });
  it('a spline of twenty thousand points is read as quickly as it is long', () => {
    const count = 20_000;
    const knots = Array.from({ length: count + 4 }, (_, i) => `40 ${Math.min(Math.max(0, i - 3), count - 3)}`);
    const points = Array.from({ length: count }, (_, i) => `10 ${i}|20 ${(i * 7919) % 13}`);
    const begun = cpuTime();
    const { list } = targetById('dxf').read(
      pairs(`0 SECTION|2 ENTITIES|0 SPLINE|8 0|71 3|${[...knots, ...points].join('|')}|0 ENDSEC|0 EOF`),
    );
    expect(cpuTime() - begun).toBeLessThan(20_000);
    expect(list.entries[0]).toMatchObject({ kind: 'path', outlines: [{ segments: { length: count - 3 } }] });
  });
});

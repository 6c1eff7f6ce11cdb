import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { Failure, TARGETS, type Target, derive, readPackage, recipeOf, writePackage } from '../src';
import { shippedFonts } from '../../render/src';
import { masterWith, rectangle, text } from './build';

const time = '2026-11-20T10:00:00.000Z';
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
const samples: [Target, Uint8Array][] = TARGETS.map((target) => [
  target,
  derive({ master, rev: 1, time }, recipeOf(target.id, {}), shippedFonts()).bytes,
]);
samples.push(
  [TARGETS[0]!, readFileSync(join(fixtures, 'weathervane.svg'))],
  [TARGETS[1]!, readFileSync(join(fixtures, 'gate.dxf'))],
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
  const start = Date.now();
  try {
    read();
  } catch (error) {
    if (!(error instanceof Failure)) throw error;
    expect(error.message.length).toBeGreaterThan(10);
    expect(error.code).not.toBe('unexpected');
  }
  expect(Date.now() - start).toBeLessThan(3000);
}

describe('readers under damage', () => {
  it.each(
    samples.map(
      ([target, bytes], i) => [`${target.id} ${i < TARGETS.length ? 'of ours' : 'from elsewhere'}`, target, bytes] as const,
    ),
  )('%s: every damaged file is read or refused in words, in bounded time', (_, target, bytes) => {
    fc.assert(
      fc.property(fc.array(spoil, { minLength: 1, maxLength: 4 }), (damage) => {
        const bad = spoiled(bytes, damage);
        readsOrSaysWhy(() => target.read(bad));
        if (target.bringIn) readsOrSaysWhy(() => target.bringIn!(bad, 'bad'));
      }),
      { numRuns: 250 },
    );
  });

  it('any bytes at all are refused in words', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), fc.constantFrom(...TARGETS), (bytes, target) =>
        readsOrSaysWhy(() => target.read(bytes)),
      ),
      { numRuns: 300 },
    );
  });

  it('native packages: every damaged one is refused in words or is still the same master', () => {
    const bytes = writePackage({ master, rev: 1, time, history: null, resources: new Map() });
    fc.assert(
      fc.property(fc.array(spoil, { minLength: 1, maxLength: 3 }), (damage) => {
        readsOrSaysWhy(() => expect(readPackage(spoiled(bytes, damage)).master).toEqual(master));
      }),
      { numRuns: 250 },
    );
  });
});

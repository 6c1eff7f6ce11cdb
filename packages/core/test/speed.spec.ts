import { type DisplayEntry, type DisplayList, fromPoints, kindById, packDrawing, plainStyle, type Outline } from '../src';
import { square } from './build';
import { cpuTime } from './cpu-time';
import { atDepth } from './depth';

const MANY = atDepth(3_000, 10_000);
const carries = { order: 'kept' };
const list = (entries: DisplayEntry[]): DisplayList => ({
  kind: 'display-list',
  sheet: null,
  background: null,
  layers: [{ name: 'cut', colour: null }],
  entries,
});
const at = (i: number): [number, number] => [(i % 200) * 6, Math.floor(i / 200) * 6];
const shapes = (style: object, by = 0) =>
  Array.from({ length: MANY }, (_, i): DisplayEntry => ({
    kind: 'path',
    layer: 'cut',
    style: { ...plainStyle, ...style },
    outlines: [square(at(i)[0] + by, at(i)[1], 4)],
  }));
const texts = (by: number, words: (i: number) => string) =>
  Array.from({ length: MANY }, (_, i): DisplayEntry => ({
    kind: 'text',
    layer: 'cut',
    style: plainStyle,
    text: words(i),
    frame: [1, 0, 0, 1, at(i)[0] + by, at(i)[1]],
    size: 3,
    font: 'Commissioner',
    align: 'start',
  }));

/** What a comparison takes to compute, ms, packing aside; and what it finds. */
function timed(a: DisplayEntry[], b: DisplayEntry[], order = carries) {
  const [master, copy] = [packDrawing(list(a)), packDrawing(list(b))];
  const start = cpuTime();
  const found = kindById('drawing').compare(master, copy, { tolerance: 0.01, carries: order });
  return {
    ms: cpuTime() - start,
    kinds: new Set(found.differences.map(({ kind }) => kind)),
    count: found.differences.length,
  };
}

/** Far above what it takes outside of a test (`npm run benchmark`, part matching), far below what anything quadratic would. */
const LIMIT = 10_000;

describe(`comparing ${MANY} things costs what they are many`, () => {
  it.each<[string, () => ReturnType<typeof timed>, string[]]>([
    [
      'texts that all moved',
      () =>
        timed(
          texts(0, (i) => `No ${i}`),
          texts(31, (i) => `No ${i}`),
        ),
      ['moved'],
    ],
    [
      'texts that say the same and all moved',
      () =>
        timed(
          texts(0, () => 'Sedge'),
          texts(2, () => 'Sedge'),
        ),
      ['moved'],
    ],
    [
      'texts that all say something else',
      () =>
        timed(
          texts(0, (i) => `No ${i}`),
          texts(0, (i) => `Nr ${i}`),
        ),
      ['retyped'],
    ],
    ['shapes in the opposite order', () => timed(shapes({ fill: '#14213a' }), shapes({ fill: '#14213a' }).reverse()), []],
    ['shapes that all moved', () => timed(shapes({}), shapes({}, 1.5)), ['moved']],
    ['fills that all changed', () => timed(shapes({ fill: '#14213a' }), shapes({ fill: '#c23b22' })), ['recoloured']],
    ['fills by another rule', () => timed(shapes({ fill: '#14213a' }), shapes({ fill: '#14213a', fillRule: 'evenodd' })), []],
    [
      'fills of one path, its outlines in the opposite order',
      () => {
        const outlines: Outline[] = Array.from({ length: MANY }, (_, i) => square(...at(i), 4));
        const one = (some: Outline[]): DisplayEntry[] => [
          { kind: 'path', layer: 'cut', style: { ...plainStyle, fill: '#14213a', fillRule: 'evenodd' }, outlines: some },
        ];
        return timed(one(outlines), one([...outlines].reverse()));
      },
      [],
    ],
    [
      'shapes missing on the other side',
      () =>
        timed(
          shapes({}),
          shapes({}).filter((_, i) => i % 2),
        ),
      ['missing'],
    ],
    [
      'lines that were split',
      () => {
        const line = (i: number, from: number, to: number): DisplayEntry => ({
          kind: 'path',
          layer: 'cut',
          style: { ...plainStyle, stroke: '#14213a' },
          outlines: [
            fromPoints(
              [
                [at(i)[0] + from, at(i)[1]],
                [at(i)[0] + to, at(i)[1]],
              ],
              false,
            ),
          ],
        });
        const whole = Array.from({ length: MANY }, (_, i) => line(i, 0, 4));
        const split = Array.from({ length: MANY }, (_, i) => [line(i, 0, 2), line(i, 2, 4)]).flat();
        return timed(whole, split);
      },
      [],
    ],
  ])('%s', (_, run, kinds) => {
    const { ms, kinds: found } = run();
    expect([...found]).toEqual(kinds);
    expect(ms).toBeLessThan(LIMIT);
  });
});

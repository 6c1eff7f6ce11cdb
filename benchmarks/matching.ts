import { type DisplayEntry, fromPoints, kindById, packDrawing, plainStyle } from '@inkwell-twin/core';
import { median } from './timing';

const MANY = 20_000;
const at = (i: number): [number, number] => [(i % 200) * 6, Math.floor(i / 200) * 6];
const square = (x: number, y: number) =>
  fromPoints(
    [
      [x, y],
      [x + 4, y],
      [x + 4, y + 4],
      [x, y + 4],
    ],
    true,
  );
const shapes = (by: number, style: object) =>
  Array.from({ length: MANY }, (_, i): DisplayEntry => ({
    kind: 'path',
    layer: 'cut',
    style: { ...plainStyle, ...style },
    outlines: [square(at(i)[0] + by, at(i)[1])],
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
const compound = (entries: DisplayEntry[]): DisplayEntry[] => [
  {
    kind: 'path',
    layer: 'cut',
    style: { ...plainStyle, fill: '#14213a', fillRule: 'evenodd' },
    outlines: entries.flatMap((entry) => (entry.kind === 'path' ? entry.outlines : [])),
  },
];

/** Comparing twenty thousand things that all differ in one way, or come in another order. */
export async function benchmarkMatching(): Promise<Record<string, number>> {
  const ink = { fill: '#14213a' };
  const cases: [string, DisplayEntry[], DisplayEntry[]][] = [
    ['texts that moved', texts(0, (i) => `No ${i}`), texts(31, (i) => `No ${i}`)],
    ['texts of the same words that moved', texts(0, () => 'Sedge'), texts(2, () => 'Sedge')],
    ['shapes in the opposite order', shapes(0, ink), shapes(0, ink).reverse()],
    ['shapes that moved', shapes(0, {}), shapes(1.5, {})],
    ['fills of another colour', shapes(0, ink), shapes(0, { fill: '#c23b22' })],
    ['fills by another rule', shapes(0, ink), shapes(0, { ...ink, fillRule: 'evenodd' })],
    ['fills of one path in the opposite order', compound(shapes(0, ink)), compound(shapes(0, ink).reverse())],
  ];
  const figures: Record<string, number> = {};
  for (const [label, a, b] of cases) {
    const [master, copy] = [a, b].map((entries) =>
      packDrawing({ kind: 'display-list', sheet: null, background: null, layers: [{ name: 'cut', colour: null }], entries }),
    ) as [never, never];
    const settings = { tolerance: 0.01, carries: { order: 'kept' } as never };
    figures[`compare 20,000 ${label}, ms`] = await median(3, () => kindById('drawing').compare(master, copy, settings));
  }
  return figures;
}

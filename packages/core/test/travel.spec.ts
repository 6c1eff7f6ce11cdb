import fc from 'fast-check';
import { nearestTour, shortTour, travelOf, type Errand } from '../src/evaluate/machines/travel';
import { runs } from './depth';

const point = fc
  .tuple(fc.integer({ min: 0, max: 9000 }), fc.integer({ min: 0, max: 6000 }))
  .map(([x, y]) => [x / 10, y / 10] as const);
const stop: fc.Arbitrary<Errand> = fc.oneof(
  point.map((a) => ({ a, b: a })),
  fc.tuple(point, point).map(([a, b]) => ({ a, b })),
);

/** Numbers that look like chance, the same each time. */
const chance = (seed: number) => () => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;

describe('the way between stops', () => {
  it('goes to each once, from one of its ends, and is never longer than going to the nearest each time', () =>
    fc.assert(
      fc.property(fc.array(stop, { maxLength: 60 }), (stops) => {
        const tour = shortTour(stops, [0, 0]);
        expect(tour.map((visit) => visit.stop).sort((a, b) => a - b)).toEqual(stops.map((_, i) => i));
        expect(travelOf(stops, tour, [0, 0])).toBeLessThanOrEqual(travelOf(stops, nearestTour(stops, [0, 0]), [0, 0]) + 1e-6);
      }),
      { numRuns: runs(150) },
    ));

  it('is at least 15 % shorter than going to the nearest each time, over holes in a sheet', () => {
    const next = chance(20_261_201);
    let [short, nearest] = [0, 0];
    for (let round = 0; round < 6; round++) {
      const stops = Array.from({ length: 500 }, () => {
        const a = [next() * 900, next() * 600] as const;
        return { a, b: a };
      });
      short += travelOf(stops, shortTour(stops, [0, 0]), [0, 0]);
      nearest += travelOf(stops, nearestTour(stops, [0, 0]), [0, 0]);
    }
    expect(short / nearest).toBeLessThanOrEqual(0.85);
  });

  it.each([
    ['nothing', []],
    ['one', [{ a: [5, 5], b: [5, 5] }]],
    ['many in one place', Array.from({ length: 40 }, () => ({ a: [7, 7], b: [7, 7] }))],
    ['many in a line', Array.from({ length: 300 }, (_, i) => ({ a: [i * 3, 0], b: [i * 3, 0] }))],
    [
      'far from where one is',
      [
        { a: [1e6, 1e6], b: [1e6, 1e6] },
        { a: [0, 1e6], b: [0, 1e6] },
        { a: [1e6, 0], b: [1e6, 0] },
      ],
    ],
  ] as [string, Errand[]][])('takes %s', (_, stops) => {
    expect(shortTour(stops, [0, 0])).toHaveLength(stops.length);
  });
});

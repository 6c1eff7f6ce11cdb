// Outlines taken by their points, parted, joined and combined.
import fc from 'fast-check';
import {
  type Outline,
  type Point,
  addNode,
  areaOfPolyline,
  breakAt,
  circleOutline,
  deviation,
  flatten,
  fromPoints,
  gripsOf,
  joinOutlines,
  lengthOfPolyline,
  moveGrip,
  nearestPlace,
  removeNode,
  reversed,
} from '../src';
import { type Combination, combine, combineItems } from '../src/combine';
import { applyPatches } from '../src';
import { outline, point } from './arbitrary';
import { masterWith, rectangle, text } from './build';
import { runs } from './depth';

const length = (outlines: readonly Outline[]): number =>
  outlines.reduce((sum, one) => sum + lengthOfPolyline(flatten(one, 0.001)), 0);
const area = (outlines: readonly Outline[]): number =>
  Math.abs(outlines.reduce((sum, one) => sum + areaOfPolyline(flatten({ ...one, closed: true }, 0.0005)), 0));
const same = (a: readonly Outline[], b: readonly Outline[], within = 0.01): void => {
  expect(a).toHaveLength(b.length);
  a.forEach((one, i) => expect(deviation(flatten(one, 0.005), flatten(b[i]!, 0.005))).toBeLessThan(within + 0.01));
};

describe('outlines by their points', () => {
  it('keep their shape when a point is added, when they are turned round, broken and joined again', () => {
    fc.assert(
      fc.property(outline, point, (one, near) => {
        const place = nearestPlace([one], near);
        fc.pre(place !== null && length([one]) > 1 && place.t > 0.02 && place.t < 0.98);
        const more = addNode([one], place!);
        same(more, [one]);
        expect(gripsOf(more).length).toBeGreaterThan(gripsOf([one]).length);
        same([reversed(reversed(one))], [one], 1e-9);
        expect(length([reversed(one)])).toBeCloseTo(length([one]), 3);
      }),
      { numRuns: runs(40) },
    );
  });

  it('follow a point that is moved, and only near it', () => {
    const square = fromPoints(
      [
        [0, 0],
        [10, 0],
        [10, 10],
        [0, 10],
        [0, 0],
      ],
      true,
    );
    const grips = gripsOf([square]);
    expect(grips.map(({ at }) => at)).toEqual([
      [10, 0],
      [10, 10],
      [0, 10],
      [0, 0],
    ]);
    const [moved] = moveGrip([square], grips[3]!, [-5, -5]);
    expect(moved).toEqual(
      fromPoints(
        [
          [-5, -5],
          [10, 0],
          [10, 10],
          [0, 10],
          [-5, -5],
        ],
        true,
      ),
    );
    fc.assert(
      fc.property(outline, fc.nat(100), point, (one, which, [dx, dy]) => {
        const all = gripsOf([one]);
        const grip = all[which % all.length]!;
        const back = moveGrip(moveGrip([one], grip, [dx, dy]), grip, [-dx, -dy]);
        // An arc that its ends meet in has no bulge to come back to.
        if (one.segments.every(({ kind }) => kind !== 'arc')) same(back, [one], 1e-6);
        const after = gripsOf(moveGrip([one], grip, [dx, dy])).find(({ node, part }) => node === grip.node && part === grip.part);
        expect(after?.at[0]).toBeCloseTo(grip.at[0] + dx, 6);
      }),
    );
  });

  it('lose a point and go on without it; of too few points nothing is left', () => {
    const path = fromPoints(
      [
        [0, 0],
        [10, 0],
        [10, 10],
        [0, 10],
      ],
      false,
    );
    expect(removeNode([path], { outline: 0, node: 1, part: 'point', at: [0, 0] })).toEqual([
      fromPoints(
        [
          [0, 0],
          [10, 10],
          [0, 10],
        ],
        false,
      ),
    ]);
    expect(removeNode([path], { outline: 0, node: 0, part: 'point', at: [0, 0] })).toEqual([
      fromPoints(
        [
          [10, 0],
          [10, 10],
          [0, 10],
        ],
        false,
      ),
    ]);
    expect(removeNode([path], { outline: 0, node: 3, part: 'point', at: [0, 0] })).toEqual([
      fromPoints(
        [
          [0, 0],
          [10, 0],
          [10, 10],
        ],
        false,
      ),
    ]);
    expect(
      removeNode(
        [
          fromPoints(
            [
              [0, 0],
              [1, 1],
            ],
            false,
          ),
        ],
        { outline: 0, node: 1, part: 'point', at: [0, 0] },
      ),
    ).toEqual([]);
  });

  it('are broken and joined', () => {
    const square = fromPoints(
      [
        [0, 0],
        [10, 0],
        [10, 10],
        [0, 10],
      ],
      true,
    );
    const [open] = breakAt([square], { outline: 0, node: 2, part: 'point', at: [10, 10] });
    expect([open!.closed, open!.start, length([open!])]).toEqual([false, [10, 10], 40]);
    const two = breakAt([open!], { outline: 0, node: 2, part: 'point', at: [0, 0] });
    expect(two).toHaveLength(2);
    const [again, ...none] = joinOutlines(two);
    expect([none.length, again!.closed, length([again!])]).toEqual([0, true, 40]);
    // Ends that lie apart are bridged straight.
    const apart = [
      fromPoints(
        [
          [0, 0],
          [10, 0],
        ],
        false,
      ),
      fromPoints(
        [
          [20, 5],
          [13, 4],
        ],
        false,
      ),
    ];
    expect(length(joinOutlines(apart))).toBeCloseTo(10 + 5 + Math.hypot(7, 1), 6);
    expect(
      joinOutlines([
        fromPoints(
          [
            [0, 0],
            [10, 0],
            [5, 5],
          ],
          false,
        ),
      ])[0]!.closed,
    ).toBe(true);
  });
});

describe('areas combined', () => {
  const one = (outlines: Outline[]) => ({ outlines, rule: 'nonzero' as const });
  const closed: fc.Arbitrary<Outline> = fc.oneof(
    fc.tuple(point, fc.integer({ min: 3, max: 60 })).map(([at, r]) => circleOutline(at, r)),
    fc
      .tuple(point, point)
      .filter(([[a, b], [c, d]]) => Math.abs(a - c) > 2 && Math.abs(b - d) > 2)
      .map(([[a, b], [c, d]]) =>
        fromPoints(
          [
            [a, b],
            [c, b],
            [c, d],
            [a, d],
          ],
          true,
        ),
      ),
    outline.map((any) => ({ ...any, closed: true })),
  );

  it('hold what sets of points hold: both together and what they share are as large as one and the other', () => {
    fc.assert(
      fc.property(closed, closed, (a, b) => {
        const of = (how: Combination) => area(combine([one([a]), one([b])], how));
        const [x, y] = [area(combine([one([a])], 'union')), area(combine([one([b])], 'union'))];
        const slack = 0.02 * (length([a]) + length([b])) + 0.01;
        expect(Math.abs(of('union') + of('intersection') - x - y)).toBeLessThan(slack);
        expect(Math.abs(of('difference') + of('intersection') - x)).toBeLessThan(slack);
        expect(Math.abs(of('union') - of('intersection') - of('apart'))).toBeLessThan(slack);
      }),
      { numRuns: runs(80) },
    );
  });

  it('keep arcs and curves as what they are', () => {
    const made = combine([one([circleOutline([0, 0], 20)]), one([circleOutline([15, 0], 20)])], 'union');
    expect(made).toHaveLength(1);
    expect(made[0]!.segments.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['arc']));
    expect(made[0]!.segments.length).toBeLessThanOrEqual(5);
    expect(made[0]!.segments.every(({ kind }) => kind === 'arc')).toBe(true);
    const leaf: Outline = {
      start: [0, 0],
      closed: true,
      segments: [
        { kind: 'cubic', c1: [10, 20], c2: [30, 20], to: [40, 0] },
        { kind: 'cubic', c1: [30, -20], c2: [10, -20], to: [0, 0] },
      ],
    };
    const half = combine(
      [
        one([leaf]),
        one([
          fromPoints(
            [
              [-5, -30],
              [20, -30],
              [20, 30],
              [-5, 30],
            ],
            true,
          ),
        ]),
      ],
      'intersection',
    );
    expect(half[0]!.segments.map(({ kind }) => kind).sort()).toEqual(['cubic', 'cubic', 'line']);
    expect(area(half)).toBeCloseTo(area([leaf]) / 2, 1);
  });

  it('leave holes where one lies within the other, and nothing where nothing is shared', () => {
    const [big, small]: [Point, Point] = [
      [0, 0],
      [5, 0],
    ];
    const ring = combine([one([circleOutline(big, 30)]), one([circleOutline(small, 10)])], 'difference');
    expect(ring).toHaveLength(2);
    expect(area(ring)).toBeCloseTo(Math.PI * 800, 0);
    expect(combine([one([circleOutline([0, 0], 3)]), one([circleOutline([50, 0], 3)])], 'intersection')).toEqual([]);
  });

  it('are done to objects: one path in the place of the lowest, as it looks', () => {
    const master = masterWith([rectangle('a', 0, 0), text('t', 'Mere'), rectangle('b', 20, 10)]);
    const now = applyPatches(master, combineItems(master, ['b', 'a'], 'union', 'n').patches).master;
    expect(now.boards[0]!.items.map(({ id }) => id)).toEqual(['n', 't']);
    expect(now.boards[0]!.items[0]).toMatchObject({ kind: 'path', style: { stroke: '#14213a' } });
    expect(() => combineItems(master, ['a'], 'union')).toThrow('Two shapes or more');
    expect(() => combineItems(master, ['a', 't'], 'union')).toThrow('Only shapes are combined');
    const far = masterWith([rectangle('a', 0, 0), rectangle('b', 100, 50)]);
    expect(() => combineItems(far, ['a', 'b'], 'intersection')).toThrow('Nothing would be left');
  });
});

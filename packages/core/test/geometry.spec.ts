import fc from 'fast-check';
import {
  type Outline,
  type Point,
  apply,
  arcsOfCubic,
  areaOfPolyline,
  asCircle,
  boxOfOutlines,
  bulgeOf,
  bulgeSegment,
  circleOutline,
  deviation,
  directedDeviation,
  distance,
  distanceToSegment,
  ellipseOutline,
  endpointArc,
  flatten,
  fromPoints,
  identity,
  invert,
  lengthOfPolyline,
  multiply,
  pointOnArc,
  rotation,
  scaling,
  sweepOf,
  transformOutline,
  translation,
} from '../src';
import { outline, point } from './arbitrary';
import { square } from './build';
import { runs } from './depth';

/** Dense points of an outline, far finer than any tolerance in use. */
const fine = (one: Outline) => flatten(one, 1e-3);

/** The deviation found by brute force: every dense point of one against every chord of the other. */
function bruteDirected(a: readonly number[], b: readonly number[]): number {
  let worst = 0;
  for (let i = 0; i + 3 < a.length; i += 2)
    for (let s = 0; s <= 20; s++) {
      const [x, y] = [a[i]! + ((a[i + 2]! - a[i]!) * s) / 20, a[i + 1]! + ((a[i + 3]! - a[i + 1]!) * s) / 20];
      let best = Infinity;
      for (let j = 0; j + 3 < b.length; j += 2)
        best = Math.min(best, distanceToSegment(x, y, b[j]!, b[j + 1]!, b[j + 2]!, b[j + 3]!));
      worst = Math.max(worst, best);
    }
  return worst;
}

describe('maps of the plane', () => {
  const matrix = fc
    .tuple(fc.double({ min: -3, max: 3, noNaN: true }), fc.double({ min: 0.1, max: 4, noNaN: true }), point)
    .map(([turn, scale, [x, y]]) => multiply(translation(x, y), multiply(rotation(turn), scaling(scale))));

  it('undoes a map with its inverse', () => {
    fc.assert(
      fc.property(matrix, point, (map, p) => {
        const back = apply(invert(map)!, apply(map, p));
        expect(distance(back, p)).toBeLessThan(1e-8);
      }),
    );
  });
  it('has no inverse for a map that flattens everything', () => expect(invert([1, 0, 0, 0, 5, 5])).toBeUndefined());
  it('does the second map of a product first', () =>
    expect(apply(multiply(translation(10, 0), scaling(2)), [1, 1])).toEqual([12, 2]));
  it('keeps arcs under a turn and makes cubics of them under a squeeze', () => {
    const circle = circleOutline([5, 5], 4);
    expect(transformOutline(circle, rotation(1)).segments.every(({ kind }) => kind === 'arc')).toBe(true);
    const squeezed = transformOutline(circle, scaling(2, 1));
    expect(squeezed.segments.every(({ kind }) => kind === 'cubic')).toBe(true);
    for (let i = 0, points = flatten(squeezed, 0.01); i < points.length; i += 2)
      expect(Math.hypot((points[i]! - 10) / 8, (points[i + 1]! - 5) / 4)).toBeCloseTo(1, 3);
  });
  it('turns an arc the other way round in a mirror', () => {
    const half: Outline = {
      start: [1, 0],
      segments: [{ kind: 'arc', to: [-1, 0], centre: [0, 0], clockwise: false }],
      closed: false,
    };
    const mirrored = transformOutline(half, scaling(1, -1));
    expect(pointOnArc(mirrored.start, mirrored.segments[0] as never, 0.5)[1]).toBeCloseTo(-1);
  });
});

describe('arcs', () => {
  it('goes there and back through a bulge', () => {
    fc.assert(
      fc.property(point, point, fc.double({ min: -4, max: 4, noNaN: true }), (from, to, bulge) => {
        fc.pre(distance(from, to) > 0.1 && Math.abs(bulge) > 0.01);
        const segment = bulgeSegment(from, to, bulge);
        expect(segment.kind).toBe('arc');
        if (segment.kind === 'arc') expect(bulgeOf(from, segment)).toBeCloseTo(bulge, 5);
      }),
    );
  });
  it('is a straight line without a bulge', () => expect(bulgeSegment([0, 0], [1, 0], 0).kind).toBe('line'));
  it('ends an elliptical arc where it should, whatever its flags', () => {
    fc.assert(
      fc.property(
        point,
        point,
        fc.tuple(fc.double({ min: 1, max: 80, noNaN: true }), fc.double({ min: 1, max: 80, noNaN: true })),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.boolean(),
        fc.boolean(),
        (from, to, radii, turn, large, sweep) => {
          fc.pre(distance(from, to) > 0.1);
          const segments = endpointArc(from, radii, turn, large, sweep, to);
          expect(segments.at(-1)!.to).toEqual(to);
          const length = lengthOfPolyline(flatten({ start: from, segments, closed: false }, 0.01));
          expect(length).toBeGreaterThanOrEqual(distance(from, to) - 1e-6);
        },
      ),
    );
  });
  it('grows radii that are too small for the distance (SVG 1.1, F.6.6)', () => {
    const [only] = endpointArc([0, 0], [1, 1], 0, false, true, [10, 0]);
    expect(only).toMatchObject({ kind: 'arc', centre: [5, 0] });
  });
  it('takes the long way round with the large flag', () => {
    const lengthOf = (large: boolean) =>
      lengthOfPolyline(
        flatten({ start: [0, 0], segments: endpointArc([0, 0], [5, 5], 0, large, true, [5, 5]), closed: false }, 0.001),
      );
    expect(lengthOf(false)).toBeCloseTo((Math.PI / 2) * 5, 2);
    expect(lengthOf(true)).toBeCloseTo(1.5 * Math.PI * 5, 2);
  });
  it('recognises a circle however it is cut, and nothing else', () => {
    expect(asCircle(circleOutline([3, 4], 2))).toEqual({ centre: [3, 4], radius: 2 });
    expect(asCircle(square(0, 0, 2))).toBeUndefined();
    const half: Outline = {
      start: [1, 0],
      segments: [{ kind: 'arc', to: [-1, 0], centre: [0, 0], clockwise: false }],
      closed: true,
    };
    expect(asCircle(half)).toBeUndefined();
  });
  it('knows a full turn from none', () =>
    expect(sweepOf([1, 0], { kind: 'arc', to: [1, 0], centre: [0, 0], clockwise: false })).toBeCloseTo(2 * Math.PI));
});

describe('flattening', () => {
  it('stays within the tolerance it promises', () => {
    fc.assert(
      fc.property(outline, fc.constantFrom(0.5, 0.1, 0.02), (one, tolerance) => {
        expect(directedDeviation(fine(one), flatten(one, tolerance))).toBeLessThanOrEqual(tolerance + 2e-3);
      }),
      { numRuns: runs(40) },
    );
  });
  it('is near the true length and area of a circle', () => {
    const points = flatten(circleOutline([0, 0], 10), 0.001);
    expect(lengthOfPolyline(points)).toBeCloseTo(20 * Math.PI, 1);
    expect(areaOfPolyline(points)).toBeCloseTo(100 * Math.PI, 0);
  });
  it('boxes an ellipse within a hundredth', () => {
    const box = boxOfOutlines([ellipseOutline([30, 0, 0, 10, 50, 50])]);
    expect(box.maxX).toBeCloseTo(80, 2);
    expect(box.minY).toBeCloseTo(40, 2);
  });
});

describe('arcs for a curve', () => {
  it('are as near as asked, and say how near', () => {
    fc.assert(
      fc.property(point, point, point, point, fc.constantFrom(0.05, 0.01), (from, c1, c2, to, tolerance) => {
        fc.pre(distance(from, to) > 1);
        const cubic = { kind: 'cubic' as const, c1, c2, to };
        const { pieces, deviation: said } = arcsOfCubic(from, cubic, tolerance);
        const curve = fine({ start: from, segments: [cubic], closed: false });
        const made = fine({ start: from, segments: pieces, closed: false });
        expect(said).toBeLessThanOrEqual(tolerance);
        expect(deviation(curve, made)).toBeLessThanOrEqual(tolerance + 3e-3);
      }),
      { numRuns: runs(40) },
    );
  });
  it('do not go round the far side of a circle where the curve turns back', () => {
    const cubic = { kind: 'cubic' as const, c1: [0, 0] as Point, c2: [3.71, 0] as Point, to: [0, 0.01] as Point };
    const { pieces } = arcsOfCubic([1, 0], cubic, 0.05);
    const made = fine({ start: [1, 0], segments: pieces, closed: false });
    expect(deviation(fine({ start: [1, 0], segments: [cubic], closed: false }), made)).toBeLessThan(0.053);
  });
  it('needs one line for a straight curve', () => {
    expect(arcsOfCubic([0, 0], { kind: 'cubic', c1: [1, 0], c2: [2, 0], to: [3, 0] }, 0.01).pieces).toEqual([
      { kind: 'line', to: [3, 0] },
    ]);
  });
});

describe('deviation', () => {
  const polyline = fc.array(point, { minLength: 2, maxLength: 40 }).map((points) => points.flat());
  it('agrees with brute force', () => {
    fc.assert(
      fc.property(polyline, polyline, (a, b) => {
        const exact = directedDeviation(a, b);
        const brute = bruteDirected(a, b);
        expect(exact).toBeGreaterThanOrEqual(brute - 2e-3);
        // Brute force samples every twentieth of a chord, and distance grows no faster than one walks: half a step may be missed.
        const longest = Math.max(
          ...a.flatMap((x, i) => (i % 2 || i + 3 >= a.length ? [] : [Math.hypot(a[i + 2]! - x, a[i + 3]! - a[i + 1]!)])),
        );
        expect(exact).toBeLessThanOrEqual(brute + longest / 40 + 2e-3);
      }),
      { numRuns: runs(80) },
    );
  });
  it('is nothing for the same line, the same either way round, and never larger by the triangle', () => {
    fc.assert(
      fc.property(polyline, polyline, polyline, (a, b, c) => {
        expect(deviation(a, a)).toBe(0);
        expect(Math.abs(deviation(a, b) - deviation(b, a))).toBeLessThan(3e-3);
        expect(deviation(a, c)).toBeLessThanOrEqual(deviation(a, b) + deviation(b, c) + 1e-2);
      }),
      { numRuns: runs(40) },
    );
  });
  it('sees a bay between two ends that agree', () => {
    const straight = [0, 0, 100, 0];
    const bay = [0, 0, 40, 0, 50, 7, 60, 0, 100, 0];
    expect(deviation(straight, bay)).toBeCloseTo(7, 2);
  });
  it('is as large as the shift of a shifted line', () => {
    const a = flatten(square(0, 0, 10), 0.1);
    expect(deviation(a, flatten(square(3, 0, 10), 0.1))).toBeCloseTo(3, 3);
  });
  it('stops early when it is certain to be above what is asked', () =>
    expect(deviation([0, 0, 1, 0], [0, 50, 1, 50], 0.01)).toBeGreaterThan(0.01));
  it('is infinite between something and nothing', () => expect(directedDeviation([0, 0, 1, 1], [])).toBe(Infinity));
});

describe('points', () => {
  it('measures to the nearest point of a segment, its ends included', () => {
    expect(distanceToSegment(5, 3, 0, 0, 10, 0)).toBe(3);
    expect(distanceToSegment(-3, 4, 0, 0, 10, 0)).toBe(5);
    expect(distanceToSegment(3, 4, 0, 0, 0, 0)).toBe(5);
  });
  it('keeps an outline as it is under the identity', () => {
    const one = fromPoints(
      [
        [0, 0],
        [1, 2],
      ] as Point[],
      false,
    );
    expect(transformOutline(one, identity)).toEqual(one);
  });
});

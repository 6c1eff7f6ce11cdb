import fc from 'fast-check';
import { type Outline, flatten, fromPoints } from '../src';
import { ellipseOutline } from '../src/base/geometry/arcs';
import { distance } from '../src/base/geometry/point';
import { adaptOutline } from '../src/evaluate/boards/curves';
import { besideConvex } from '../src/evaluate/machines/convex';
import { areaOfRing, grown, ringOf } from '../src/evaluate/machines/offset';
import { runs } from './depth';

const rounded = (w: number, h: number, r: number): Outline => ({
  start: [r, 0],
  segments: [
    { kind: 'line', to: [w - r, 0] },
    { kind: 'arc', to: [w, r], centre: [w - r, r], clockwise: false },
    { kind: 'line', to: [w, h - r] },
    { kind: 'arc', to: [w - r, h], centre: [w - r, h - r], clockwise: false },
    { kind: 'line', to: [r, h] },
    { kind: 'arc', to: [0, h - r], centre: [r, h - r], clockwise: false },
    { kind: 'line', to: [0, r] },
    { kind: 'arc', to: [r, 0], centre: [r, r], clockwise: false },
  ],
  closed: true,
});
const silent = { arcs: () => {}, curves: () => {}, kept: () => {}, grid: () => {} };
/** An outline as a machine works it: curves as the arcs that lie within two thousandths of them. */
const asArcs = (outline: Outline): Outline =>
  adaptOutline(outline, { arcs: 'kept', cubics: 'arcs', within: 0.002, step: 0 }, silent as never, '');
const area = (outline: Outline): number => Math.abs(areaOfRing(ringOf(outline)));

describe('beside a convex outline', () => {
  it('keeps lines lines and arcs arcs, each by as much', () => {
    const { outline, sharp } = besideConvex(rounded(40, 20, 5), 3)!;
    expect(sharp).toBe(false);
    expect(outline.segments.map(({ kind }) => kind).join(' ')).toBe('line arc line arc line arc line arc');
    expect(area(outline)).toBeCloseTo(46 * 26 - (4 - Math.PI) * 64, 0);
    expect(besideConvex(rounded(40, 20, 5), -3)!.sharp).toBe(false);
    expect(
      besideConvex(
        fromPoints(
          [
            [0, 0],
            [10, 0],
            [10, 10],
            [0, 10],
          ],
          true,
        ),
        -2,
      ),
    ).toMatchObject({ sharp: true });
  });

  it('leaves what is not convex, and what vanishes, to others', () => {
    expect(
      besideConvex(
        fromPoints(
          [
            [0, 0],
            [10, 0],
            [10, 10],
            [5, 5],
            [0, 10],
          ],
          true,
        ),
        1,
      ),
    ).toBeNull();
    // A star of five that crosses itself turns the same way all along, but twice around.
    const star = [0, 2, 4, 1, 3].map((i): [number, number] => [Math.cos(1.2566 * i), Math.sin(1.2566 * i)]);
    expect(besideConvex(fromPoints(star, true), 0.1)).toBeNull();
    expect(besideConvex(rounded(40, 20, 5), -5)).toBeNull();
    expect(besideConvex(rounded(40, 20, 5), -12)).toBeNull();
    expect(
      besideConvex(
        fromPoints(
          [
            [0, 0],
            [10, 0],
            [0, 1],
          ],
          true,
        ),
        -1,
      ),
    ).toBeNull();
  });

  it('goes along what arcs that were found in curves leave a little bent, and ends on its circles', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 60, max: 400 }),
        fc.integer({ min: 40, max: 400 }),
        fc.integer({ min: -300, max: 600 }).filter((by) => by !== 0),
        (across, up, hundredths) => {
          const by = hundredths / 100;
          const arcs = asArcs(ellipseOutline([across / 10, 0, 0, up / 10, 0, 0]));
          const beside = besideConvex(arcs, by);
          // A curve that is tighter than the tool is for others.
          const tightest = Math.min(across, up) ** 2 / Math.max(across, up) / 10;
          if (by < 0 && tightest < 1.3 * -by) return;
          expect(beside).not.toBeNull();
          const expected = grown([ringOf(arcs)], by).reduce((sum, one) => sum + areaOfRing(one), 0);
          expect(Math.abs(area(beside!.outline) - expected)).toBeLessThan(0.004 * (across + up));
          let from = beside!.outline.start;
          for (const segment of beside!.outline.segments) {
            if (segment.kind === 'arc')
              expect(Math.abs(distance(from, segment.centre) - distance(segment.to, segment.centre))).toBeLessThan(0.004);
            from = segment.to;
          }
        },
      ),
      { numRuns: runs(200) },
    );
  });

  it('is what clipper2 makes of it, for convex outlines made by chance, either way round', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 313 }), { minLength: 3, maxLength: 9 }),
        fc.integer({ min: 5, max: 50 }),
        fc.integer({ min: -600, max: 600 }).filter((by) => by !== 0),
        fc.boolean(),
        (angles, size, hundredths, back) => {
          const by = hundredths / 100;
          const turned = angles.map((angle) => angle / 50).sort((a, b) => a - b);
          const points = turned.map((angle): [number, number] => [size * Math.cos(angle), 0.7 * size * Math.sin(angle)]);
          const outline = fromPoints(back ? points.reverse() : points, true);
          const beside = besideConvex(outline, by);
          if (!beside) return;
          const ring = ringOf(outline);
          const expected = grown([areaOfRing(ring) > 0 ? ring : [...ring].reverse()], by).reduce(
            (sum, one) => sum + areaOfRing(one),
            0,
          );
          expect(Math.abs(area(beside.outline) - expected)).toBeLessThan(
            0.02 * (1 + flatten(outline, 1).length) + 1e-3 * expected,
          );
        },
      ),
      { numRuns: runs(300) },
    );
  });
});

import fc from 'fast-check';
import { BENCH } from '../../standins/src';
import { type Item, type Outline, type ToolPath, derive, fromPoints, machineFit, recipeOf } from '../src';
import { sweepOf } from '../src/base/geometry/arcs';
import { distance } from '../src/base/geometry/point';
import { swivelled } from '../src/evaluate/machines/knife';
import { layer, lined, masterWith, rectangle } from './build';
import { runs } from './depth';
import { services } from './flat';

type Point = readonly [number, number];
/** Points along an outline, close to each other. */
function pointsOf({ start, segments }: Outline, step: number): Point[] {
  const points: Point[] = [start];
  let from = start;
  for (const segment of segments) {
    const sweep = segment.kind === 'arc' ? sweepOf(from, segment) : 0;
    const radius = segment.kind === 'arc' ? distance(from, segment.centre) : 0;
    const count = Math.max(1, Math.ceil((segment.kind === 'arc' ? Math.abs(sweep) * radius : distance(from, segment.to)) / step));
    for (let k = 1; k <= count; k++) {
      const share = k / count;
      if (segment.kind === 'arc') {
        const angle = Math.atan2(from[1] - segment.centre[1], from[0] - segment.centre[0]) + sweep * share;
        points.push([segment.centre[0] + radius * Math.cos(angle), segment.centre[1] + radius * Math.sin(angle)]);
      } else points.push([from[0] + (segment.to[0] - from[0]) * share, from[1] + (segment.to[1] - from[1]) * share]);
    }
    from = segment.to;
  }
  return points;
}

/** Where the tip of a knife is dragged to that follows its axis on a tether (a tractrix, step by step). */
function dragged(axis: readonly Point[], blade: number, tip: Point): Point[] {
  let [x, y] = tip;
  return axis.map(([ax, ay]) => {
    const far = Math.hypot(ax - x, ay - y) || 1;
    [x, y] = [ax + ((x - ax) * blade) / far, ay + ((y - ay) * blade) / far];
    return [x, y];
  });
}

describe('a knife whose tip trails its axis', () => {
  it('draws the outline with its tip, around corners, along lines and arcs', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 })), { minLength: 2, maxLength: 7 }),
        fc.integer({ min: 1, max: 12 }),
        fc.boolean(),
        (places, tenths, round) => {
          const blade = tenths / 10;
          const corners = places.filter(([x, y], i) => !i || Math.hypot(x - places[i - 1]![0], y - places[i - 1]![1]) > 3);
          if (corners.length < 2) return;
          const plain = fromPoints(corners, false);
          const last = corners.at(-1)!;
          const outline: Outline = round
            ? {
                ...plain,
                segments: [
                  ...plain.segments,
                  { kind: 'arc', to: [last[0], last[1] + 12], centre: [last[0], last[1] + 6], clockwise: true },
                ],
              }
            : plain;
          const step = blade / 60;
          const tip = dragged(pointsOf(swivelled(outline, blade), step), blade, outline.start);
          const wanted = pointsOf(outline, 0.05);
          const off = (point: Point, all: readonly Point[]) =>
            all.reduce((least, one) => Math.min(least, Math.hypot(one[0] - point[0], one[1] - point[1])), Infinity);
          for (let i = 0; i < tip.length; i += 23) expect(off(tip[i]!, wanted)).toBeLessThan(0.06);
          for (const corner of corners) expect(off(corner, tip)).toBeLessThan(0.06);
        },
      ),
      { numRuns: runs(25) },
    );
  });
});

const disc: Item = {
  kind: 'ellipse',
  id: 'hole',
  name: 'Hole',
  layer: 'cut',
  style: lined('#14213a'),
  cx: 45,
  cy: 30,
  rx: 4,
  ry: 4,
};
const card = masterWith([rectangle('card', 20, 20), rectangle('second', 80, 20), disc], { layers: [layer('cut')] });
const cut = async (options: Record<string, unknown>) => {
  const recipe = recipeOf('hpgl', { machine: 'cutter', ...options } as never);
  const { files, defects, projection } = await derive({ master: card, rev: 1, time: '2026-11-20T10:00:00Z' }, recipe, services);
  expect(defects).toEqual([]);
  expect(BENCH['cutter']!(files[0]!.bytes)).toMatchObject({ runs: true, alarms: [] });
  const { firstPoint, points, source, sources } = projection.leaves[0]!.body as ToolPath;
  return [...source].map((number, i) => {
    const way: Point[] = [];
    for (let k = firstPoint[i]!; k < firstPoint[i + 1]!; k++) way.push([points[2 * k]!, points[2 * k + 1]!]);
    return { of: sources[number], way };
  });
};
const lengthOf = (way: readonly Point[]): number =>
  way.slice(1).reduce((sum, [x, y], i) => sum + Math.hypot(x - way[i]![0], y - way[i]![1]), 0);

describe('what a knife is told', () => {
  it('cuts closed outlines past where they began, along the same way', async () => {
    const [plain, past] = [await cut({}), await cut({ overcut: 3 })];
    plain.forEach(({ of, way }, i) => {
      expect(past[i]!.of).toBe(of);
      expect(lengthOf(past[i]!.way) - lengthOf(way)).toBeCloseTo(3, 0);
    });
  });

  it('swivels around corners, a little beyond them', async () => {
    const [plain, blade] = [await cut({}), await cut({ blade: 0.5 })];
    const right = (ways: typeof plain) =>
      Math.max(...ways.filter(({ of }) => of === 'second').flatMap(({ way }) => way.map(([x]) => x)));
    expect(right(blade) - right(plain)).toBeCloseTo(0.5, 1);
  });

  it('gets a frame around all, which is cut last, and has room for it at the origin', async () => {
    const ways = await cut({ frame: 5, place: 'at the origin' });
    const { of, way } = ways.at(-1)!;
    expect(of).toBeUndefined();
    const [xs, ys] = [way.map(([x]) => x), way.map(([, y]) => y)];
    expect([Math.min(...xs), Math.min(...ys)]).toEqual([0, 0]);
    const inner = ways.slice(0, -1).flatMap((one) => one.way);
    expect(Math.max(...xs) - Math.max(...inner.map(([x]) => x))).toBeCloseTo(5, 1);
    const off = masterWith([rectangle('card', 2, 2)], { layers: [layer('cut')] });
    const { findings } = await machineFit(off, recipeOf('hpgl', { machine: 'cutter', frame: 5 } as never), services);
    expect(findings.map(({ kind }) => kind)).toEqual(['off the bed']);
  });

  it('goes through objects as they are listed where that is asked, holes still before what they are in', async () => {
    const order = async (options: Record<string, unknown>) => (await cut(options)).map(({ of }) => of);
    expect(await order({ sequence: 'as drawn' })).toEqual(['hole', 'card', 'second']);
    const items = [rectangle('far', 300, 20), rectangle('near', 20, 20), rectangle('middle', 150, 20)];
    const row = masterWith(items, {
      layers: [layer('cut')],
      boards: [{ id: 'b1', name: 'Row', width: 500, height: 100, background: null, items }],
    });
    const listed = async (sequence: string) => {
      const { projection } = await derive(
        { master: row, rev: 1, time: '2026-11-20T10:00:00Z' },
        recipeOf('hpgl', { machine: 'cutter', sequence } as never),
        services,
      );
      const { source, sources } = projection.leaves[0]!.body as ToolPath;
      return [...source].map((number) => sources[number]);
    };
    expect(await listed('as drawn')).toEqual(['far', 'near', 'middle']);
    expect(await listed('short way')).toEqual(['near', 'middle', 'far']);
  });
});

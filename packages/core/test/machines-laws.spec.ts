import { ClipType, Clipper, EndType, FillRule, JoinType, type Paths64 } from 'clipper2-ts';
import fc from 'fast-check';
import { BENCH } from '../../standins/src';
import {
  derive,
  flatten,
  machineFit,
  itemKind,
  recipeOf,
  type Item,
  type Machining,
  type Master,
  SHIPPED_MACHINES,
} from '../src';
import { sheet, ways } from './machine-sheets';
import { services } from './flat';
import { runs } from './depth';

const made = async (master: Master, options: Record<string, string | number>) =>
  derive({ master, rev: 1, time: '2026-11-20T10:00:00Z' }, recipeOf('gcode', options), services);
const textOf = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

const MM = 1e4;
const whole = (points: readonly (readonly [number, number])[]) =>
  points.map(([x, y]) => ({ x: Math.round(x * MM), y: Math.round(y * MM) }));

/** Where a tool of that radius cuts at its deepest, from the text of a program alone. */
function swept(text: string, radius: number, deepest: number): Paths64 {
  let [x, y, z, motion, inch] = [0, 0, 0, 0, 1];
  const lines: [number, number][][] = [];
  for (const line of text.split('\n')) {
    const words = new Map(
      [...line.replace(/\([^)]*\)/g, '').matchAll(/([A-Z])(-?[\d.]+)/g)].map(([, letter, value]) => [letter!, Number(value)]),
    );
    if (/G20/.test(line)) inch = 25.4;
    const g = /G([0-3])(?!\d)/.exec(line);
    if (g) motion = Number(g[1]);
    if (!['X', 'Y', 'Z'].some((letter) => words.has(letter))) continue;
    const get = (letter: string, now: number) => (words.has(letter) ? words.get(letter)! * inch : now);
    const [tx, ty, tz] = [get('X', x), get('Y', y), get('Z', z)];
    if (motion > 0 && tz <= deepest + 0.01 && z <= deepest + 0.01) {
      const points: [number, number][] = [[x, y]];
      if (motion > 1) {
        const [cx, cy] = [x + get('I', 0), y + get('J', 0)];
        const [from, r] = [Math.atan2(y - cy, x - cx), Math.hypot(x - cx, y - cy)];
        let sweep = Math.atan2(ty - cy, tx - cx) - from;
        if (motion === 2 && sweep >= -1e-7) sweep -= 2 * Math.PI;
        if (motion === 3 && sweep <= 1e-7) sweep += 2 * Math.PI;
        const count = Math.ceil(Math.abs(sweep) * Math.sqrt(r / 0.004)) + 2;
        for (let i = 1; i < count; i++)
          points.push([cx + r * Math.cos(from + (sweep * i) / count), cy + r * Math.sin(from + (sweep * i) / count)]);
      }
      points.push([tx, ty]);
      lines.push(points);
    }
    [x, y, z] = [tx, ty, tz];
  }
  return Clipper.inflatePaths(lines.map(whole), radius * MM, JoinType.Round, EndType.Round, 2, 0.001 * MM);
}

const outlineOf = (item: Item): Paths64 =>
  itemKind(item).outlines!(item as never).map((outline) => {
    const flat = flatten(outline, 0.001);
    return whole(Array.from({ length: flat.length / 2 }, (_, i) => [flat[2 * i]!, flat[2 * i + 1]!] as const));
  });
const grown = (paths: Paths64, by: number): Paths64 =>
  Clipper.inflatePaths(paths, by * MM, JoinType.Miter, EndType.Polygon, 4, 0.0005 * MM);
const areaOf = (paths: Paths64): number => paths.reduce((sum, path) => sum + Clipper.area(path), 0) / MM / MM;
const op = (type: ClipType, a: Paths64, b: Paths64): Paths64 => Clipper.booleanOp(type, a, b, FillRule.NonZero);
const turned = (paths: Paths64): Paths64 => paths.map((path) => (Clipper.area(path) < 0 ? [...path].reverse() : path));

describe('whatever is asked of a router', () => {
  it('runs to its end on the bench, and reads back as it was meant', () =>
    fc.assert(
      fc.asyncProperty(sheet, ways, async (master, options) => {
        const { files, defects, projection } = await made(master, options);
        expect(defects).toEqual([]);
        const report = BENCH['router']!(files[0]!.bytes);
        expect(report.alarms).toEqual([]);
        const { ends, motion, count } = projection.leaves[0]!.body as Machining;
        const { stock, safeHeight } = SHIPPED_MACHINES.find(({ id }) => id === 'router')!;
        for (let i = 0; i < count; i++) {
          expect(ends[3 * i + 2]).toBeGreaterThanOrEqual(-(stock.thickness + stock.below) - 1e-9);
          const sideways = i > 0 && (ends[3 * i] !== ends[3 * i - 3] || ends[3 * i + 1] !== ends[3 * i - 2]);
          if (!motion[i] && sideways && !Number.isNaN(ends[3 * i - 3]!))
            expect(ends[3 * i + 2]).toBeGreaterThanOrEqual(Math.min(1, safeHeight));
        }
      }),
      { numRuns: runs(60) },
    ));

  it('takes as long as the bench’s own clock says, within a twentieth', () =>
    fc.assert(
      fc.asyncProperty(sheet, ways, async (master, options) => {
        const { job } = await machineFit(master, recipeOf('gcode', options), services);
        const { seconds } = BENCH['router']!((await made(master, options)).files[0]!.bytes);
        expect(Math.abs(job!.seconds - seconds) / seconds).toBeLessThan(0.05);
      }),
      { numRuns: runs(60) },
    ));

  it('cuts along each outline all round and never into the part, within 0.01 mm', () =>
    fc.assert(
      fc.asyncProperty(sheet, ways, async (master, options) => {
        const { files } = await made(master, { ...options, tabs: 0 });
        const cut = swept(textOf(files[0]!.bytes), 3, -9.3);
        for (const item of master.boards[0]!.items) {
          const outline = turned(outlineOf(item));
          const isHole = item.id.includes('hole');
          const [kept, gone] = isHole
            ? [
                op(ClipType.Difference, grown(outline, 2), grown(outline, 0.01)),
                op(ClipType.Difference, grown(outline, -0.01), grown(outline, -1)),
              ]
            : [
                grown(outline, -0.01),
                op(
                  ClipType.Difference,
                  Clipper.inflatePaths(outline, 5 * MM, JoinType.Round, EndType.Polygon, 2, 0.001 * MM),
                  Clipper.inflatePaths(outline, 0.01 * MM, JoinType.Round, EndType.Polygon, 2, 0.0005 * MM),
                ),
              ];
          // A hole in a part is cut out of it: what else lies in the part is not asked here.
          const holes = isHole
            ? []
            : master.boards[0]!.items.filter(({ id }) => id.startsWith(`${item.id}-hole`)).flatMap(outlineOf);
          const into = op(ClipType.Difference, op(ClipType.Intersection, kept, cut), grown(turned(holes), 0.02));
          const left = op(ClipType.Difference, gone, cut);
          if (!isHole || holesApart(master, item.id)) expect(areaOf(into)).toBeLessThan(1e-3);
          expect(areaOf(left)).toBeLessThan(0.02);
        }
      }),
      { numRuns: runs(24) },
    ));
});

/** Whether no other hole of its part comes near a hole. */
const holesApart = (master: Master, id: string): boolean =>
  master.boards[0]!.items.filter((one) => one.id.startsWith(`${id.split('-hole')[0]!}-hole`)).length < 2;

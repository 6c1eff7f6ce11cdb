import type { Point } from '../../../base/geometry/point';
import { type Ring, grown } from '../../machines/offset';
import { along } from './along';

/** How far what lies under a filled area stays inside of its edge, and how far apart its stitches are, mm. */
const [INSIDE, UNDER] = [0.6, 2.5];
/** Each row begins its stitches so much later than the one before it, as a share of a stitch: no line of holes shows. */
const STAGGER = 0.25;

/** How an area is filled: lengths mm, angle of its rows in degrees. */
interface Filling {
  readonly angle: number;
  readonly density: number;
  readonly length: number;
  readonly pull: number;
  readonly under: 'none' | 'edge' | 'edge and zigzag';
}

/** A stretch of a row inside of an area, in turned axes. */
interface Stretch {
  readonly y: number;
  readonly row: number;
  readonly from: number;
  readonly to: number;
}

/** The stretches of rows inside of rings, row by row from below. */
function rowsOf(rings: readonly Ring[], density: number): Stretch[][] {
  let [low, high] = [Infinity, -Infinity];
  for (const ring of rings) for (const [, y] of ring) [low, high] = [Math.min(low, y), Math.max(high, y)];
  if (low > high) return [];
  const first = Math.floor(low / density);
  const count = Math.max(0, Math.ceil(high / density) - first + 1);
  const cuts: number[][] = Array.from({ length: count }, () => []);
  const yOf = (k: number): number => (first + k + 0.5) * density;
  for (const ring of rings)
    for (let i = 0; i < ring.length; i++) {
      const [a, b] = [ring[i]!, ring[(i + 1) % ring.length]!];
      const [under, over] = a[1] < b[1] ? [a, b] : [b, a];
      const from = Math.max(0, Math.ceil(under[1] / density - first - 0.5));
      for (let k = from; k < count && yOf(k) < over[1]; k++)
        cuts[k]!.push(under[0] + ((yOf(k) - under[1]) / (over[1] - under[1])) * (over[0] - under[0]));
    }
  return cuts.map((xs, k) => {
    xs.sort((a, b) => a - b);
    const row: Stretch[] = [];
    for (let i = 0; i + 1 < xs.length; i += 2)
      if (xs[i + 1]! - xs[i]! > 1e-6) row.push({ y: yOf(k), row: first + k, from: xs[i]!, to: xs[i + 1]! });
    return row;
  });
}

const meets = (a: Stretch, b: Stretch): boolean => a.from < b.to && b.from < a.to;

/** Rows that can be sewn one after the other without leaving the area: where it forks or joins, another section begins. */
function sectionsOf(rows: readonly (readonly Stretch[])[]): Stretch[][] {
  const done: Stretch[][] = [];
  let open: Stretch[][] = [];
  for (const row of rows) {
    const next: Stretch[][] = [];
    for (const stretch of row) {
      const below = open.filter((section) => meets(section.at(-1)!, stretch));
      const alone = below.length === 1 && row.filter((one) => meets(below[0]!.at(-1)!, one)).length === 1;
      if (alone) {
        below[0]!.push(stretch);
        next.push(below[0]!);
      } else next.push([stretch]);
    }
    done.push(...open.filter((section) => !next.includes(section)));
    open = next;
  }
  return [...done, ...open];
}

/** A section row by row, there and back; stitches of all rows lie in one pattern. */
function sewn(section: readonly Stretch[], { length, pull }: Filling): Point[] {
  const out: Point[] = [];
  section.forEach(({ y, row, from, to }, i) => {
    const inner: Point[] = [];
    const shift = (((row * STAGGER) % 1) + 1) % 1;
    for (let k = Math.ceil(from / length - shift); (k + shift) * length < to; k++) {
      const x = (k + shift) * length;
      // None so near to an end that the needle would go in twice in one place.
      if (x - from > 0.25 * length && to - x > 0.25 * length) inner.push([x, y]);
    }
    const points: Point[] = [[from - pull, y], ...inner, [to + pull, y]];
    out.push(...(i % 2 ? points.reverse() : points));
  });
  return out;
}

/** Sections in an order with short ways between them, each from the nearer of its ends. */
function inOrder(sections: readonly Stretch[][]): Stretch[][] {
  const left = [...sections];
  const out: Stretch[][] = [];
  let at: Point | null = null;
  while (left.length) {
    let [best, turned, least] = [0, false, Infinity];
    left.forEach((section, i) => {
      for (const back of [false, true]) {
        const end = back ? section.at(-1)! : section[0]!;
        const far = at ? Math.hypot(end.from - at[0], end.y - at[1]) : end.y + 1e-3 * end.from;
        if (far < least - 1e-9) [best, turned, least] = [i, back, far];
      }
    });
    const [section] = left.splice(best, 1);
    const way = turned ? [...section!].reverse() : section!;
    out.push(way);
    const last = way.at(-1)!;
    at = way.length % 2 ? [last.to, last.y] : [last.from, last.y];
  }
  return out;
}

/** An area filled by rows of stitches, with what lies under it first. @param rings by the non-zero rule: holes run the other way */
export function fill(rings: readonly Ring[], filling: Filling): Point[][] {
  const { angle, density, under } = filling;
  const [cos, sin] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const turned = (degrees: number, all: readonly Ring[]): Ring[] => {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    return all.map((ring) => ring.map(([x, y]): Point => [x * c + y * s, y * c - x * s]));
  };
  const back = ([x, y]: Point): Point => [x * cos - y * sin, x * sin + y * cos];
  const runs: Point[][] = [];
  const inner = under === 'none' ? [] : grown(rings, -INSIDE);
  for (const ring of inner) runs.push(along([...ring, ring[0]!], UNDER));
  if (under === 'edge and zigzag') {
    const rows = inOrder(sectionsOf(rowsOf(turned(angle + 90, inner), UNDER)));
    const [c, s] = [-sin, cos];
    for (const section of rows)
      runs.push(sewn(section, { ...filling, length: 2 * UNDER, pull: 0 }).map(([x, y]): Point => [x * c - y * s, x * s + y * c]));
  }
  for (const section of inOrder(sectionsOf(rowsOf(turned(angle, rings), density)))) runs.push(sewn(section, filling).map(back));
  return runs;
}

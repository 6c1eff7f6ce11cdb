import type { Point } from '../../../base/geometry/point';
import { along, evenly } from './along';

/** A stitch across that is longer gets more stitches in between, mm. */
const WIDEST = 7;
/** How far apart the stitches of what lies under a column are, mm. */
const UNDER = 2;

/** The direction across a line at each of its points, to the left; in corners between both sides. */
function across(line: readonly Point[], closed: boolean): Point[] {
  const last = line.length - 1;
  return line.map((_, i): Point => {
    const [before, after] = closed
      ? [line[i ? i - 1 : last - 1]!, line[i < last ? i + 1 : 1]!]
      : [line[Math.max(0, i - 1)]!, line[Math.min(last, i + 1)]!];
    const unit = (a: Point, b: Point): Point => {
      const size = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
      return [(b[0] - a[0]) / size, (b[1] - a[1]) / size];
    };
    const here = line[i]!;
    const [u, v] = [unit(before, here), unit(here, after)];
    const [x, y] = before === here ? v : after === here ? u : [u[0] + v[0], u[1] + v[1]];
    const size = Math.hypot(x, y);
    // One that turns right back goes across as it came.
    return size < 1e-6 ? [-u[1], u[0]] : [-y / size, x / size];
  });
}

/** Across a column, with stitches in between where it is wide; those of one crossing never lie beside those of the next. */
function crossing(from: Point, to: Point, row: number): Point[] {
  const width = Math.hypot(to[0] - from[0], to[1] - from[1]);
  const parts = Math.ceil(width / WIDEST - 1e-9);
  const out: Point[] = [];
  const shift = [0, 0.3, -0.3][row % 3]!;
  for (let k = 1; k < parts; k++) {
    const share = (k + shift) / parts;
    out.push([from[0] + share * (to[0] - from[0]), from[1] + share * (to[1] - from[1])]);
  }
  return [...out, to];
}

/** How a column is sewn: mm. */
interface Column {
  readonly width: number;
  readonly density: number;
  readonly under: 'none' | 'edge' | 'edge and zigzag';
}

/** A column of satin along a line: from one side to the other and back, each pair of stitches as far on as the density says. */
function zigzag(line: readonly Point[], width: number, step: number): Point[] {
  const closed = line.length > 2 && Math.hypot(line[0]![0] - line.at(-1)![0], line[0]![1] - line.at(-1)![1]) < 1e-6;
  const middle = evenly(line, step / 2);
  const sides = across(middle, closed);
  const side = (i: number, way: number): Point => [
    middle[i]![0] + (way * width * sides[i]![0]) / 2,
    middle[i]![1] + (way * width * sides[i]![1]) / 2,
  ];
  const out: Point[] = [side(0, 1)];
  for (let i = 1; i < middle.length; i++) out.push(...crossing(out.at(-1)!, side(i, i % 2 ? -1 : 1), i));
  return out;
}

/** All runs of a column: what lies under it first, there and back, so that each begins where the one before it ends. */
export function satin(line: readonly Point[], { width, density, under }: Column): Point[][] {
  const runs: Point[][] = [];
  if (under !== 'none') {
    const there = along(line, UNDER);
    const back = under === 'edge and zigzag' ? zigzag([...line].reverse(), 0.6 * width, 2 * UNDER) : [...there].reverse();
    runs.push(there, back);
  }
  runs.push(zigzag(line, width, density));
  return runs;
}

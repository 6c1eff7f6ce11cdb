import { flatten } from './flatten';
import type { Outline } from './outline';
import type { Point } from './point';

/** Turns between chords above this are corners; smaller ones are a curve's. */
const CORNER = Math.PI / 9;

/** A place along a line: the point, and the direction of the line there, radians. */
export interface Along {
  readonly at: Point;
  readonly direction: number;
}

/** A line measured along its length. */
export interface Run {
  readonly length: number;
  readonly closed: boolean;
  /** @param distance from its start, mm; beyond the ends of an open line it goes on straight, a closed one goes round */
  readonly at: (distance: number) => Along;
}

/** Measures an outline along its length, curves within 0.002 mm. Directions change steadily along curves and at once at corners. */
export function runAlong(outline: Outline): Run {
  const flat = flatten(outline, 0.002);
  const points: Point[] = [];
  for (let i = 0; i < flat.length; i += 2) {
    const [last, next] = [points.at(-1), [flat[i]!, flat[i + 1]!] as const];
    if (!last || Math.hypot(next[0] - last[0], next[1] - last[1]) > 1e-9) points.push(next);
  }
  const chords = points.slice(1).map(([x, y], i) => {
    const [fx, fy] = points[i]!;
    return { length: Math.hypot(x - fx, y - fy), direction: Math.atan2(y - fy, x - fx) };
  });
  const starts = [0];
  for (const { length } of chords) starts.push(starts.at(-1)! + length);
  const total = starts.at(-1)!;
  if (!chords.length) return { length: 0, closed: false, at: () => ({ at: points[0]!, direction: 0 }) };

  const turn = (from: number, to: number): number => {
    const by = to - from;
    return Math.abs(by) <= Math.PI ? by : by - Math.sign(by) * 2 * Math.PI;
  };
  /** The direction within a chord, leaning towards that of the neighbour on the nearer side. */
  const directionIn = (i: number, share: number): number => {
    const own = chords[i]!.direction;
    const towards = share < 0.5 ? i - 1 : i + 1;
    const neighbour = chords[outline.closed ? (towards + chords.length) % chords.length : towards];
    if (!neighbour) return own;
    const by = turn(own, neighbour.direction);
    return Math.abs(by) > CORNER ? own : own + by * Math.abs(share - 0.5);
  };
  const at = (distance: number): Along => {
    const d = outline.closed ? ((distance % total) + total) % total : distance;
    let [low, high] = [0, chords.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (starts[middle]! <= d) low = middle;
      else high = middle - 1;
    }
    const { length, direction } = chords[low]!;
    const [x, y] = points[low]!;
    const on = d - starts[low]!;
    return {
      at: [x + on * Math.cos(direction), y + on * Math.sin(direction)],
      direction: directionIn(low, Math.min(1, Math.max(0, on / length))),
    };
  };
  return { length: total, closed: outline.closed, at };
}

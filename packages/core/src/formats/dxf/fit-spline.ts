import type { Outline, Segment } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';

/**
 * The smooth curve through points that a spline by fit points stands for: cubic pieces whose slope and bend go on, by the length of
 * the chords between the points (a natural cubic spline; DXF reference, SPLINE, groups 11, 12 and 13).
 * @param ends directions at the start and the end, where they are stated
 */
export function throughPoints(points: readonly Point[], closed: boolean, ends: readonly (Point | null)[] = []): Outline | null {
  const all = points.filter(([x, y], i) => i === 0 || Math.hypot(x - points[i - 1]![0], y - points[i - 1]![1]) > 1e-12);
  if (all.length < 2) return null;
  const chords = all.slice(1).map(([x, y], i) => Math.hypot(x - all[i]![0], y - all[i]![1]));
  const [xs, ys] = [0, 1].map((axis) =>
    slopes(
      all.map((one) => one[axis]!),
      chords,
      ends.map((end) => end && end[axis]! / (Math.hypot(...end) || 1)),
    ),
  ) as [number[], number[]];
  const segments = chords.map((chord, i): Segment => {
    const [from, to] = [all[i]!, all[i + 1]!];
    const third = chord / 3;
    return {
      kind: 'cubic',
      c1: [from[0] + third * xs[i]!, from[1] + third * ys[i]!],
      c2: [to[0] - third * xs[i + 1]!, to[1] - third * ys[i + 1]!],
      to,
    };
  });
  return { start: all[0]!, segments, closed };
}

/** The slopes of a natural cubic spline at its points, along one axis: three diagonals, solved from both ends. */
function slopes(values: readonly number[], chords: readonly number[], ends: readonly (number | null)[]): number[] {
  const count = values.length;
  const [low, middle, high, right] = [0, 1, 2, 3].map(() => new Array<number>(count).fill(0)) as [
    number[],
    number[],
    number[],
    number[],
  ];
  for (let i = 1; i < count - 1; i++) {
    const [before, after] = [1 / chords[i - 1]!, 1 / chords[i]!];
    low[i] = before;
    middle[i] = 2 * (before + after);
    high[i] = after;
    right[i] = 3 * ((values[i]! - values[i - 1]!) * before ** 2 + (values[i + 1]! - values[i]!) * after ** 2);
  }
  const [start, end] = [ends[0] ?? null, ends[1] ?? null];
  const last = count - 1;
  [middle[0], high[0], right[0]] = start === null ? [2, 1, (3 * (values[1]! - values[0]!)) / chords[0]!] : [1, 0, start];
  [middle[last], low[last], right[last]] =
    end === null ? [2, 1, (3 * (values[last]! - values[last - 1]!)) / chords[last - 1]!] : [1, 0, end];
  for (let i = 1; i < count; i++) {
    const share = low[i]! / middle[i - 1]!;
    middle[i]! -= share * high[i - 1]!;
    right[i]! -= share * right[i - 1]!;
  }
  const found = new Array<number>(count).fill(0);
  for (let i = last; i >= 0; i--) found[i] = (right[i]! - (i < last ? high[i]! * found[i + 1]! : 0)) / middle[i]!;
  return found;
}

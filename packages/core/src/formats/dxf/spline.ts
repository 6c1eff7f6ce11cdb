import type { Outline, Segment } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';

interface Spline {
  readonly degree: number;
  readonly knots: readonly number[];
  readonly points: readonly Point[];
  readonly weights: readonly number[];
}

/** The span that holds a parameter: the last knot at or below it, ends aside. */
function spanOf({ degree, knots, points }: Spline, t: number): number {
  let [low, high] = [degree, points.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (knots[middle]! <= t) low = middle;
    else high = middle - 1;
  }
  return low;
}

/**
 * The polar form of a span at `degree` arguments, in homogeneous coordinates. With all arguments equal it is the point of the
 * curve (de Boor's algorithm); with the span's two ends mixed it is a Bézier point of that span (Ramshaw, blossoming).
 */
function blossom({ degree, knots, points, weights }: Spline, span: number, at: readonly number[]): Point {
  const d = Array.from({ length: degree + 1 }, (_, j) => {
    const i = span - degree + j;
    const w = weights[i] ?? 1;
    return [points[i]![0] * w, points[i]![1] * w, w] as [number, number, number];
  });
  for (let r = 1; r <= degree; r++)
    for (let j = degree; j >= r; j--) {
      const i = span - degree + j;
      const width = knots[i + degree - r + 1]! - knots[i]!;
      const share = width ? (at[r - 1]! - knots[i]!) / width : 0;
      for (const k of [0, 1, 2] as const) d[j]![k] = (1 - share) * d[j - 1]![k] + share * d[j]![k];
    }
  const [x, y, w] = d[degree]!;
  return [x / w, y / w];
}

const pointAt = (spline: Spline, t: number): Point => blossom(spline, spanOf(spline, t), Array<number>(spline.degree).fill(t));

const CHORDS_PER_SPAN = 32;

/**
 * A B-spline as an outline. Degree 1 to 3 without weights come out exactly, as lines and cubics, one a span; others as short lines, 32 to a span.
 * @returns undefined where the numbers of knots and points do not fit together
 */
export function outlineOfSpline(spline: Spline, closed: boolean): { outline: Outline; exact: boolean } | undefined {
  const { degree, knots, points } = spline;
  if (degree < 1 || points.length <= degree || knots.length !== points.length + degree + 1) return undefined;
  if (knots.some((knot, i) => i > 0 && knot < knots[i - 1]!)) return undefined;
  const [first, last] = [knots[degree]!, knots[points.length]!];
  if (!(last > first)) return undefined;
  const plain = spline.weights.every((weight) => Math.abs(weight - (spline.weights[0] ?? 1)) < 1e-12);
  const spans = new Set(knots.filter((knot) => knot >= first && knot <= last)).size - 1;
  if (!plain || degree > 3) {
    const count = CHORDS_PER_SPAN * Math.max(1, spans);
    const segments: Segment[] = [];
    for (let i = 1; i <= count; i++)
      segments.push({
        kind: 'line',
        to: pointAt(spline, Math.min(last - (last - first) * 1e-12, first + ((last - first) * i) / count)),
      });
    return { outline: { start: pointAt(spline, first), segments, closed }, exact: false };
  }
  // Each span as a Bézier curve of its own, so that the whole costs what its spans cost.
  let start: Point | undefined;
  const segments: Segment[] = [];
  for (let span = degree; span < points.length; span++) {
    const [from, to] = [knots[span]!, knots[span + 1]!];
    if (!(to > from)) continue;
    const [a, b, c, d] = Array.from({ length: degree + 1 }, (_, j) =>
      blossom(
        spline,
        span,
        Array.from({ length: degree }, (__, k) => (k < degree - j ? from : to)),
      ),
    ) as [Point, Point, Point, Point];
    start ??= a;
    if (degree === 1) segments.push({ kind: 'line', to: b });
    else if (degree === 3) segments.push({ kind: 'cubic', c1: b, c2: c, to: d });
    else {
      const towards = (p: Point): Point => [p[0] + (2 / 3) * (b[0] - p[0]), p[1] + (2 / 3) * (b[1] - p[1])];
      segments.push({ kind: 'cubic', c1: towards(a), c2: towards(c), to: c });
    }
  }
  return start && { outline: { start, segments, closed }, exact: true };
}

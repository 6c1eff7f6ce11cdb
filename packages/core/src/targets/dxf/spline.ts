import type { Outline, Segment } from '../../geometry/outline';
import type { Point } from '../../geometry/point';

export interface Spline {
  readonly degree: number;
  readonly knots: readonly number[];
  readonly points: readonly Point[];
  readonly weights: readonly number[];
}

/** A point of the curve (de Boor's algorithm, in homogeneous coordinates). */
function pointAt({ degree, knots, points, weights }: Spline, t: number): Point {
  let span = degree;
  while (span < points.length - 1 && knots[span + 1]! <= t) span++;
  const d = Array.from({ length: degree + 1 }, (_, j) => {
    const i = span - degree + j;
    const w = weights[i] ?? 1;
    return [points[i]![0] * w, points[i]![1] * w, w] as [number, number, number];
  });
  for (let r = 1; r <= degree; r++)
    for (let j = degree; j >= r; j--) {
      const i = span - degree + j;
      const width = knots[i + degree - r + 1]! - knots[i]!;
      const share = width ? (t - knots[i]!) / width : 0;
      for (const k of [0, 1, 2] as const) d[j]![k] = (1 - share) * d[j - 1]![k] + share * d[j]![k];
    }
  const [x, y, w] = d[degree]!;
  return [x / w, y / w];
}

/** Inserts a knot once without changing the curve (Boehm's algorithm); plain curves only. */
function insertKnot({ degree, knots, points, weights }: Spline, t: number): Spline {
  let span = degree;
  while (span < points.length - 1 && knots[span + 1]! <= t) span++;
  const next: Point[] = [];
  for (let i = 0; i <= points.length; i++) {
    if (i <= span - degree) next.push(points[i]!);
    else if (i > span) next.push(points[i - 1]!);
    else {
      const share = (t - knots[i]!) / (knots[i + degree]! - knots[i]!);
      const [a, b] = [points[i - 1]!, points[i]!];
      next.push([a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])]);
    }
  }
  return { degree, knots: [...knots.slice(0, span + 1), t, ...knots.slice(span + 1)], points: next, weights };
}

const CHORDS_PER_SPAN = 32;

/**
 * A B-spline as an outline. Degree 1 to 3 without weights come out exactly, as lines and cubics (every inner knot raised to the
 * degree, which makes the pieces Bézier curves); others as short lines, 32 to a span.
 * @returns undefined where the numbers of knots and points do not fit together
 */
export function outlineOfSpline(spline: Spline, closed: boolean): { outline: Outline; exact: boolean } | undefined {
  const { degree, knots, points } = spline;
  if (degree < 1 || points.length <= degree || knots.length !== points.length + degree + 1) return undefined;
  if (knots.some((knot, i) => i > 0 && knot < knots[i - 1]!)) return undefined;
  const [first, last] = [knots[degree]!, knots[points.length]!];
  if (!(last > first)) return undefined;
  const plain = spline.weights.every((weight) => Math.abs(weight - (spline.weights[0] ?? 1)) < 1e-12);
  const inner = [...new Set(knots.filter((knot) => knot >= first && knot <= last))];
  if (!plain || degree > 3) {
    const count = CHORDS_PER_SPAN * Math.max(1, inner.length - 1);
    const segments: Segment[] = [];
    for (let i = 1; i <= count; i++)
      segments.push({
        kind: 'line',
        to: pointAt(spline, Math.min(last - (last - first) * 1e-12, first + ((last - first) * i) / count)),
      });
    return { outline: { start: pointAt(spline, first), segments, closed }, exact: false };
  }
  let raised = spline;
  for (const knot of inner) {
    const times = raised.knots.filter((one) => one === knot).length;
    for (let i = times; i < degree; i++) raised = insertKnot(raised, knot);
  }
  // Control points before the first knot of the range belong to an unclamped start and are not on the curve.
  const skip = raised.knots.indexOf(first) + Math.max(0, raised.knots.filter((one) => one === first).length - degree) - 1;
  const control = raised.points.slice(Math.max(0, skip));
  const segments: Segment[] = [];
  for (let i = 0; i + degree < control.length && segments.length < inner.length - 1; i += degree) {
    const [a, b, c, d] = [control[i]!, control[i + 1]!, control[i + 2], control[i + 3]];
    if (degree === 1) segments.push({ kind: 'line', to: b });
    else if (degree === 3) segments.push({ kind: 'cubic', c1: b, c2: c!, to: d! });
    else {
      const towards = (p: Point): Point => [p[0] + (2 / 3) * (b[0] - p[0]), p[1] + (2 / 3) * (b[1] - p[1])];
      segments.push({ kind: 'cubic', c1: towards(a), c2: towards(c!), to: c! });
    }
  }
  return { outline: { start: control[0]!, segments, closed }, exact: true };
}

export type Place = readonly [x: number, y: number];
/** How far chords may be off the curve that they stand for, drawing units. */
const OFF = 0.001;
/** How many chords stand for one curve at most. */
const CHORDS = 50_000;
/** The highest degree of a B-spline that such programs take. */
export const DEGREE = 11;

const stepsFor = (radius: number, sweep: number): number =>
  Math.min(
    CHORDS,
    Math.max(2, Math.ceil(Math.abs(sweep) / (2 * Math.acos(Math.max(0.5, 1 - OFF / Math.max(OFF, Math.abs(radius))))))),
  );

/** A point of a B-spline (C. de Boor, 1972). @param k which of its spans */
function pointAt(degree: number, knots: readonly number[], points: readonly Place[], k: number, t: number): Place {
  const work = Array.from({ length: degree + 1 }, (_, j): [number, number] => [...points[j + k - degree]!]);
  for (let r = 1; r <= degree; r++)
    for (let j = degree; j >= r; j--) {
      const [low, high] = [knots[j + k - degree]!, knots[j + 1 + k - r]!];
      const share = high > low ? (t - low) / (high - low) : 0;
      work[j] = [0, 1].map((c) => (1 - share) * work[j - 1]![c]! + share * work[j]![c]!) as [number, number];
    }
  return work[degree]!;
}

/** Draws curves as chords. @param spend told how many points are about to be drawn; throws where that is too many */
export class Pen {
  constructor(private readonly spend: (points: number) => void) {}

  /** Points along an arc of an ellipse. @param from, to angles, radians, anticlockwise */
  around([cx, cy]: Place, [ux, uy]: Place, [vx, vy]: Place, from: number, to: number): Place[] {
    const sweep = to > from ? to - from : to - from + 2 * Math.PI;
    const count = stepsFor(Math.max(Math.hypot(ux, uy), Math.hypot(vx, vy)), sweep);
    this.spend(count + 1);
    return Array.from({ length: count + 1 }, (_, i): Place => {
      const angle = from + (sweep * i) / count;
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      return [cx + ux * c + vx * s, cy + uy * c + vy * s];
    });
  }

  /** Points along an edge of a polyline, its first left out. @param bulge tangent of a quarter of the angle that it turns by */
  alongBulge([ax, ay]: Place, [bx, by]: Place, bulge: number): Place[] {
    const chord = Math.hypot(bx - ax, by - ay);
    const sweep = 4 * Math.atan(bulge);
    const count = bulge && chord ? stepsFor(chord / 2 / Math.sin(sweep / 2), sweep) : 1;
    this.spend(count);
    if (count === 1) return [[bx, by]];
    const radius = chord / 2 / Math.sin(sweep / 2);
    const [mx, my] = [(ax + bx) / 2, (ay + by) / 2];
    const far = radius * Math.cos(sweep / 2);
    const [cx, cy] = [mx - ((by - ay) / chord) * far, my + ((bx - ax) / chord) * far];
    const start = Math.atan2(ay - cy, ax - cx);
    return Array.from({ length: count }, (_, i): Place => {
      const angle = start + (sweep * (i + 1)) / count;
      return [cx + Math.abs(radius) * Math.cos(angle), cy + Math.abs(radius) * Math.sin(angle)];
    });
  }

  /**
   * Points along a B-spline, so close that chords are no further off than those of other curves.
   * @param knots as many as points and degree together, and one more
   */
  alongSpline(degree: number, knots: readonly number[], points: readonly Place[]): Place[] {
    const found: Place[] = [];
    for (let k = degree; k < points.length; k++) {
      const [from, to] = [knots[k]!, knots[k + 1]!];
      if (!(to > from)) continue;
      let length = 0;
      for (let i = k - degree + 1; i <= k; i++)
        length += Math.hypot(points[i]![0] - points[i - 1]![0], points[i]![1] - points[i - 1]![1]);
      const count = Math.min(CHORDS, Math.max(4, Math.ceil(Math.sqrt(length / (2 * OFF)))));
      this.spend(count + 1);
      for (let i = found.length ? 1 : 0; i <= count; i++) {
        const isLast = i === count && k === points.length - 1;
        found.push(isLast ? points.at(-1)! : pointAt(degree, knots, points, k, from + ((to - from) * i) / count));
      }
    }
    return found;
  }
}

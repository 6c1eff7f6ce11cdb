export type Place = readonly [x: number, y: number];
/** How far chords may be off the curve that they stand for, drawing units. */
const OFF = 0.001;

const stepsFor = (radius: number, sweep: number): number =>
  Math.max(2, Math.ceil(Math.abs(sweep) / (2 * Math.acos(Math.max(0.5, 1 - OFF / Math.max(OFF, Math.abs(radius)))))));

/** Points along an arc of an ellipse. @param from, to angles, radians, anticlockwise */
export function around([cx, cy]: Place, [ux, uy]: Place, [vx, vy]: Place, from: number, to: number): Place[] {
  const sweep = to > from ? to - from : to - from + 2 * Math.PI;
  const count = stepsFor(Math.max(Math.hypot(ux, uy), Math.hypot(vx, vy)), sweep);
  return Array.from({ length: count + 1 }, (_, i): Place => {
    const angle = from + (sweep * i) / count;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    return [cx + ux * c + vx * s, cy + uy * c + vy * s];
  });
}

/** Points along an edge of a polyline, its first left out. @param bulge tangent of a quarter of the angle that it turns by */
export function alongBulge([ax, ay]: Place, [bx, by]: Place, bulge: number): Place[] {
  if (!bulge) return [[bx, by]];
  const sweep = 4 * Math.atan(bulge);
  const chord = Math.hypot(bx - ax, by - ay);
  const radius = chord / 2 / Math.sin(sweep / 2);
  const [mx, my] = [(ax + bx) / 2, (ay + by) / 2];
  const far = radius * Math.cos(sweep / 2);
  const [cx, cy] = [mx - ((by - ay) / chord) * far, my + ((bx - ax) / chord) * far];
  const start = Math.atan2(ay - cy, ax - cx);
  const count = stepsFor(radius, sweep);
  return Array.from({ length: count }, (_, i): Place => {
    const angle = start + (sweep * (i + 1)) / count;
    return [cx + Math.abs(radius) * Math.cos(angle), cy + Math.abs(radius) * Math.sin(angle)];
  });
}

/** A point of a B-spline (C. de Boor, 1972). */
function pointAt(degree: number, knots: readonly number[], points: readonly Place[], t: number): Place {
  let k = degree;
  while (k < points.length - 1 && t >= knots[k + 1]!) k++;
  const work = Array.from({ length: degree + 1 }, (_, j): [number, number] => [...points[j + k - degree]!]);
  for (let r = 1; r <= degree; r++)
    for (let j = degree; j >= r; j--) {
      const [low, high] = [knots[j + k - degree]!, knots[j + 1 + k - r]!];
      const share = high > low ? (t - low) / (high - low) : 0;
      work[j] = [0, 1].map((c) => (1 - share) * work[j - 1]![c]! + share * work[j]![c]!) as [number, number];
    }
  return work[degree]!;
}

/** Points along a B-spline, so close that chords are no further off than those of other curves. */
export function alongSpline(degree: number, knots: readonly number[], points: readonly Place[]): Place[] {
  const found: Place[] = [];
  for (let k = degree; k < points.length; k++) {
    const [from, to] = [knots[k]!, knots[k + 1]!];
    if (!(to > from)) continue;
    let length = 0;
    for (let i = k - degree + 1; i <= k; i++)
      length += Math.hypot(points[i]![0] - points[i - 1]![0], points[i]![1] - points[i - 1]![1]);
    const count = Math.max(4, Math.ceil(Math.sqrt(length / (2 * OFF))));
    for (let i = found.length ? 1 : 0; i <= count; i++) {
      const isLast = i === count && k === points.length - 1;
      found.push(isLast ? points.at(-1)! : pointAt(degree, knots, points, from + ((to - from) * i) / count));
    }
  }
  return found;
}

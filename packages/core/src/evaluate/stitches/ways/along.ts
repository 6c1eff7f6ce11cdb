import { type Point, distance } from '../../../base/geometry/point';

/** Turns that are sharper keep a stitch in their corner, radians. */
const CORNER = Math.PI / 9;

/** Where the needle goes in along a line: evenly, no further apart than asked, and in every corner. */
export function along(line: readonly Point[], length: number): Point[] {
  const corners = [0];
  for (let i = 1; i < line.length - 1; i++) {
    const [a, b, c] = [line[i - 1]!, line[i]!, line[i + 1]!];
    const turn = Math.abs(
      Math.atan2(
        (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]),
        (b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1]),
      ),
    );
    if (turn > CORNER) corners.push(i);
  }
  corners.push(line.length - 1);
  const out: Point[] = [line[0]!];
  for (let k = 1; k < corners.length; k++) out.push(...evenly(line.slice(corners[k - 1], corners[k]! + 1), length).slice(1));
  return out;
}

/** Points of a line as far apart as they can be without being further than asked; its ends are among them. */
export function evenly(line: readonly Point[], most: number): Point[] {
  const lengths = line.map((point, i) => (i ? distance(line[i - 1]!, point) : 0));
  const whole = lengths.reduce((sum, one) => sum + one, 0);
  if (whole < 1e-9) return [line[0]!];
  const count = Math.max(1, Math.ceil(whole / most - 1e-9));
  const out: Point[] = [line[0]!];
  let [i, passed] = [1, 0];
  for (let k = 1; k < count; k++) {
    const at = (whole * k) / count;
    while (i < line.length - 1 && passed + lengths[i]! < at) passed += lengths[i++]!;
    const share = lengths[i]! > 0 ? (at - passed) / lengths[i]! : 0;
    const [a, b] = [line[i - 1]!, line[i]!];
    out.push([a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])]);
  }
  out.push(line.at(-1)!);
  return out;
}

/** How long a line is, mm. */
export const lengthOf = (line: readonly Point[]): number =>
  line.reduce((sum, point, i) => (i ? sum + distance(line[i - 1]!, point) : 0), 0);

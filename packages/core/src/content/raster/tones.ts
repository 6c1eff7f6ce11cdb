import { bands } from '../../evaluate/pictures/rows';
import type { Rows } from '../../contracts/pictures';

/** What each of 256 values of red, green and blue became, on average; NaN where there was none. */
type Curve = readonly [Float64Array, Float64Array, Float64Array];

/** Pixels that are looked at. */
const SAMPLES = 200_000;
/** Parts of 255 that a pixel may be off what the curve says of it, and the share of pixels that may be. */
const [OFF, STRAY] = [4, 0.03];

/** Red, green and blue of pixels at even distances, 8 bits of each, of two pictures of one size. */
function samples(master: Rows, copy: Rows): { p: Uint8Array; q: Uint8Array } {
  const { width, height } = master;
  const step = Math.max(1, Math.floor((width * height) / SAMPLES));
  const count = Math.ceil((width * height) / step);
  const [p, q] = [new Uint8Array(3 * count), new Uint8Array(3 * count)];
  let at = 0;
  for (const [top, rows] of bands(master, copy)) {
    const [one, other] = [master.rows(top, rows), copy.rows(top, rows)];
    const end = width * (top + rows);
    for (; at * step < end && at < count; at++) {
      const i = 4 * (at * step - width * top);
      for (let part = 0; part < 3; part++) {
        p[3 * at + part] = one.data[i + part]! >> (master.depth - 8);
        q[3 * at + part] = other.data[i + part]! >> (copy.depth - 8);
      }
    }
  }
  return { p, q };
}

/** The curve by which a picture was recoloured as a whole; null where no one curve says it. */
export function curveBetween(master: Rows, copy: Rows): Curve | null {
  const { p, q } = samples(master, copy);
  const sums = [0, 1, 2].map(() => new Float64Array(256)) as [Float64Array, Float64Array, Float64Array];
  const counts = [0, 1, 2].map(() => new Float64Array(256));
  for (let i = 0; i < p.length; i += 3)
    for (let part = 0; part < 3; part++) {
      const value = p[i + part]!;
      sums[part]![value]! += q[i + part]!;
      counts[part]![value]!++;
    }
  sums.forEach((sum, part) => sum.forEach((total, value) => (sum[value] = total / counts[part]![value]!)));
  let [off, count] = [0, 0];
  for (let i = 0; i < p.length; i += 3) {
    count++;
    if ([0, 1, 2].some((part) => Math.abs(sums[part]![p[i + part]!]! - q[i + part]!) > OFF)) off++;
  }
  if (off > STRAY * count) return null;
  // A curve that changes next to nothing says nothing.
  const bent = sums.some((sum) => sum.some((value, at) => Math.abs(value - at) > OFF));
  return bent ? sums : null;
}

/** A curve in words: "red 64 → 80, 128 → 140, 192 → 200; …". */
export const curveInWords = (curve: Curve): string =>
  (['red', 'green', 'blue'] as const)
    .map((name, part) => {
      const stops = [64, 128, 192].flatMap((at) => {
        const near = [0, 1, -1, 2, -2, 3, -3, 4, -4].map((by) => at + by).find((one) => !Number.isNaN(curve[part]![one]!));
        return near === undefined ? [] : [`${near} → ${Math.round(curve[part]![near]!)}`];
      });
      return `${name} ${stops.join(', ')}`;
    })
    .join('; ');

import type { Raster } from './raster';

/** What each of 256 values of red, green and blue became, on average; NaN where there was none. */
export type Curve = readonly [Float64Array, Float64Array, Float64Array];

/** Pixels that are looked at. */
const SAMPLES = 200_000;
/** Parts of 255 that a pixel may be off what the curve says of it, and the share of pixels that may be. */
const [OFF, STRAY] = [4, 0.03];

/** The curve by which a picture was recoloured as a whole; null where no one curve says it. */
export function curveBetween(master: Raster, copy: Raster): Curve | null {
  const [p, q] = [master.data, copy.data];
  const [s, t] = [p instanceof Uint16Array ? 8 : 0, q instanceof Uint16Array ? 8 : 0];
  const step = 4 * Math.max(1, Math.floor(p.length / 4 / SAMPLES));
  const sums = [0, 1, 2].map(() => new Float64Array(256)) as [Float64Array, Float64Array, Float64Array];
  const counts = [0, 1, 2].map(() => new Float64Array(256));
  for (let i = 0; i < p.length; i += step)
    for (let part = 0; part < 3; part++) {
      const value = p[i + part]! >> s;
      sums[part]![value]! += q[i + part]! >> t;
      counts[part]![value]!++;
    }
  sums.forEach((sum, part) => sum.forEach((total, value) => (sum[value] = total / counts[part]![value]!)));
  let [off, count] = [0, 0];
  for (let i = 0; i < p.length; i += step) {
    count++;
    if ([0, 1, 2].some((part) => Math.abs(sums[part]![p[i + part]! >> s]! - (q[i + part]! >> t)) > OFF)) off++;
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

import type { Packed } from '../../contracts/kind';
import { packObject } from '../../contracts/packing';
import type { Raster } from '../../contracts/raster';

/** Pixels each way that are sent to be looked at. */
const MOST = 2048;

/** Pixels as they are looked at. */
export interface ShownRaster {
  readonly width: number;
  readonly height: number;
  /** Size on the board, mm. */
  readonly mm: { readonly width: number; readonly height: number };
  readonly data: Uint8Array;
}

/** Makes pixels fit to be looked at: means of squares, weighed by how much of each shows. */
export function packRaster({ rows, ppi }: Raster): Packed {
  const { width, height } = rows;
  const by = Math.ceil(Math.max(width, height) / MOST);
  const shift = rows.depth - 8;
  const [w, h] = [Math.ceil(width / by), Math.ceil(height / by)];
  const out = new Uint8Array(4 * w * h);
  for (let y = 0; y < h; y++) {
    const deep = Math.min(by, height - y * by);
    const { data } = rows.rows(y * by, deep);
    for (let x = 0; x < w; x++) {
      let [r, g, b, a, count] = [0, 0, 0, 0, 0];
      const right = Math.min(width, (x + 1) * by);
      for (let py = 0; py < deep; py++)
        for (let px = x * by; px < right; px++) {
          const i = 4 * (py * width + px);
          const alpha = data[i + 3]! >> shift;
          r += (data[i]! >> shift) * alpha;
          g += (data[i + 1]! >> shift) * alpha;
          b += (data[i + 2]! >> shift) * alpha;
          a += alpha;
          count++;
        }
      const o = 4 * (y * w + x);
      if (a) {
        out[o] = Math.round(r / a);
        out[o + 1] = Math.round(g / a);
        out[o + 2] = Math.round(b / a);
      }
      out[o + 3] = Math.round(a / count);
    }
  }
  const pitch = 25.4 / (ppi ?? 96);
  const shown: ShownRaster = { width: w, height: h, mm: { width: width * pitch, height: height * pitch }, data: out };
  return packObject(shown);
}

import type { Sketch } from '../../base/bytes/sketch';
import type { Raster } from '../../contracts/raster';
import { bands } from '../../evaluate/pictures/rows';

/** Fields across and down that a picture is seen in. */
const [ACROSS, DOWN] = [33, 32];
/** Neighbours that make a piece. */
const TOGETHER = 4;
/** So many pixels a side are looked at, at most. */
const LOOKED = 1024;
/** Levels of 255 by which neighbours must differ to be told apart: what packing does stays under it. */
const MARGIN = 3;

/**
 * Where it gets lighter from one field to the next, four fields at a time: the same in another size or packed anew
 * (differences of neighbours, after Krawetz 2013).
 */
export function sampleRaster({ rows }: Raster, into: Sketch): void {
  const { width, height } = rows;
  const sum = new Float64Array(ACROSS * DOWN);
  const seen = new Float64Array(ACROSS * DOWN);
  const step = Math.max(1, Math.ceil(Math.max(width, height) / LOOKED));
  for (const [top, count] of bands(rows)) {
    const { data } = rows.rows(top, count);
    const full = data instanceof Uint16Array ? 257 : 1;
    for (let y = (step - (top % step)) % step; y < count; y += step) {
      const down = Math.floor(((top + y) * DOWN) / height) * ACROSS;
      for (let x = 0; x < width; x += step) {
        const at = 4 * (y * width + x);
        const shows = data[at + 3]! / (255 * full);
        const light = (0.2126 * data[at]! + 0.7152 * data[at + 1]! + 0.0722 * data[at + 2]!) / full;
        const field = down + Math.floor((x * ACROSS) / width);
        sum[field]! += light * shows + 255 * (1 - shows);
        seen[field]!++;
      }
    }
  }
  const lightOf = (field: number): number => (seen[field] ? sum[field]! / seen[field]! : 255);
  for (let y = 0; y < DOWN; y++)
    for (let x = 0; x + TOGETHER < ACROSS; x += TOGETHER) {
      const steps: number[] = [];
      for (let i = 0; i < TOGETHER; i++) {
        const change = lightOf(y * ACROSS + x + i + 1) - lightOf(y * ACROSS + x + i);
        steps.push(Math.abs(change) < MARGIN ? 0 : Math.sign(change));
      }
      // Even fields say nothing of which picture it is.
      if (steps.some(Boolean)) into.add(y, x, ...steps);
    }
}

import type { Straighten } from '../../document/corrections';
import type * as z from 'zod';
import type { Pixels } from '../../contracts/pictures';

/**
 * Turns a picture about its middle and enlarges it as much as it takes for the corners to be filled; colours between pixels are
 * mixed by nearness (bilinear), weighed by how much of them shows.
 */
export function straighten(pixels: Pixels, { angle }: z.infer<typeof Straighten>): Pixels {
  const { width, height, data } = pixels;
  const turn = (angle * Math.PI) / 180;
  if (Math.abs(turn) < 1e-9) return pixels;
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const [c, s] = [Math.abs(cos), Math.abs(sin)];
  const enlarge = Math.max(c + (s * height) / width, c + (s * width) / height);
  const out = data instanceof Uint16Array ? new Uint16Array(data.length) : new Uint8Array(data.length);
  const [cx, cy] = [width / 2, height / 2];
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 4) {
      const [dx, dy] = [(x + 0.5 - cx) / enlarge, (y + 0.5 - cy) / enlarge];
      // Rows run down, and the turn is anticlockwise as one looks at it.
      const px = Math.min(Math.max(cx + dx * cos - dy * sin - 0.5, 0), width - 1);
      const py = Math.min(Math.max(cy + dx * sin + dy * cos - 0.5, 0), height - 1);
      const [x0, y0] = [Math.floor(px), Math.floor(py)];
      const [x1, y1] = [Math.min(x0 + 1, width - 1), Math.min(y0 + 1, height - 1)];
      const [fx, fy] = [px - x0, py - y0];
      let [r, g, b, a] = [0, 0, 0, 0];
      for (let k = 0; k < 4; k++) {
        const at = 4 * ((k < 2 ? y0 : y1) * width + (k % 2 ? x1 : x0));
        const share = (k < 2 ? 1 - fy : fy) * (k % 2 ? fx : 1 - fx) * data[at + 3]!;
        r += data[at]! * share;
        g += data[at + 1]! * share;
        b += data[at + 2]! * share;
        a += share;
      }
      if (a <= 0) continue;
      out[o] = Math.round(r / a);
      out[o + 1] = Math.round(g / a);
      out[o + 2] = Math.round(b / a);
      out[o + 3] = Math.round(a);
    }
  return { width, height, data: out };
}

import type { CutOut } from '../../document/corrections';
import type * as z from 'zod';
import { blurredPlane } from './blur';
import type { Pixels } from '../../contracts/pictures';
import { labOf } from './lab';
import { fullOf, partsOf } from './tones';

type Settings = z.infer<typeof CutOut>;

/** 1 where a pixel goes away. */
function nearColour({ data, width, height }: Pixels, { colour, distance }: Settings, shift: number): Uint8Array {
  const [l, a, b] = labOf(...(partsOf(colour).map((part) => Math.round(part * 255)) as [number, number, number]));
  const most = distance * distance;
  const near = new Uint8Array(width * height);
  // Neighbours are mostly alike: the last answer often is the next one.
  let [last, known] = [-1, 0];
  for (let i = 0, o = 0; i < near.length; i++, o += 4) {
    const [r, g, blue] = [data[o]! >> shift, data[o + 1]! >> shift, data[o + 2]! >> shift];
    const value = (r << 16) | (g << 8) | blue;
    if (value !== last) {
      const [l2, a2, b2] = labOf(r, g, blue);
      known = Number((l - l2) ** 2 + (a - a2) ** 2 + (b - b2) ** 2 <= most);
      last = value;
    }
    near[i] = known;
  }
  return near;
}

/** Of what is near, what hangs together with one of the points, over edges. */
function grownFrom(near: Uint8Array, width: number, height: number, points: Settings['points']): Uint8Array {
  const grown = new Uint8Array(near.length);
  const stack: number[] = [];
  for (const [x, y] of points) {
    const [px, py] = [Math.floor(x * width), Math.floor((1 - y) * height)];
    if (px >= 0 && py >= 0 && px < width && py < height) stack.push(py * width + px);
  }
  while (stack.length) {
    const at = stack.pop()!;
    if (grown[at] || !near[at]) continue;
    // Along its row as far as it goes, and then to what is above and below.
    const row = at - (at % width);
    let [left, right] = [at, at];
    while (left > row && near[left - 1] && !grown[left - 1]) left--;
    while (right < row + width - 1 && near[right + 1] && !grown[right + 1]) right++;
    for (let i = left; i <= right; i++) {
      grown[i] = 1;
      for (const next of [i - width, i + width])
        if (next >= 0 && next < near.length && near[next] && !grown[next]) stack.push(next);
    }
  }
  return grown;
}

/** What lies outside an outline, by the even-odd rule, at the middle of each pixel. */
function outside({ width, height }: Pixels, points: Settings['points']): Uint8Array {
  const away = new Uint8Array(width * height).fill(1);
  if (points.length < 3) return away.fill(0);
  for (let y = 0; y < height; y++) {
    const level = 1 - (y + 0.5) / height;
    const crossings: number[] = [];
    points.forEach(([x1, y1], i) => {
      const [x2, y2] = points[(i + 1) % points.length]!;
      if (y1 > level !== y2 > level) crossings.push((x1 + ((level - y1) / (y2 - y1)) * (x2 - x1)) * width);
    });
    crossings.sort((a, b) => a - b);
    for (let k = 0; k + 1 < crossings.length; k += 2) {
      const from = Math.max(0, Math.ceil(crossings[k]! - 0.5));
      const to = Math.min(width, Math.ceil(crossings[k + 1]! - 0.5));
      if (to > from) away.fill(0, y * width + from, y * width + to);
    }
  }
  return away;
}

/** Makes a region see-through. Its soft edge lies half within, half without. */
export function cutOut(pixels: Pixels, settings: Settings, scale: number): Pixels {
  const { data, width, height } = pixels;
  const { by, points, soft } = settings;
  let away: Uint8Array;
  if (by === 'outline') away = outside(pixels, points);
  else {
    away = nearColour(pixels, settings, fullOf(pixels) > 255 ? 8 : 0);
    if (points.length) away = grownFrom(away, width, height, points);
  }
  const edge = (soft * scale) / 2;
  if (edge < 0.25) {
    for (let i = 0; i < away.length; i++) if (away[i]) data[4 * i + 3] = 0;
    return pixels;
  }
  const share = blurredPlane(Float32Array.from(away), width, height, edge / 1.5);
  for (let i = 0; i < away.length; i++) data[4 * i + 3] = Math.round(data[4 * i + 3]! * (1 - Math.min(1, share[i]!)));
  return pixels;
}

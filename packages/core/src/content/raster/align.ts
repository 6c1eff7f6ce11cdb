import type { Pixels } from '../../contracts/pictures';
import type { Rows } from '../../contracts/pictures';

/** How far a picture may have slipped for that to be found, pixels. */
const REACH = 12;
/** Places that are looked at for each way of laying one over the other. */
const SAMPLES = 1500;
/** Parts of 255 that light may differ by where pictures lie rightly. */
const ALIKE = 6;

/** A pixel and its light. */
interface Place {
  readonly x: number;
  readonly y: number;
  readonly own: number;
}

/** Light of a pixel and how much of it shows, in one number of 0 to 255. */
function light({ data }: Pixels, i: number): number {
  const shift = data instanceof Uint16Array ? 8 : 0;
  const alpha = (data[i + 3]! >> shift) / 255;
  return (
    (0.2126 * (data[i]! >> shift) + 0.7152 * (data[i + 1]! >> shift) + 0.0722 * (data[i + 2]! >> shift)) * alpha +
    255 * (1 - alpha)
  );
}

/** The light of all pixels. */
interface Lights {
  readonly width: number;
  readonly height: number;
  readonly light: Uint8Array;
}
function lightsOf(pixels: Pixels): Lights {
  const { width, height } = pixels;
  const all = new Uint8Array(width * height);
  for (let i = 0; i < all.length; i++) all[i] = light(pixels, 4 * i);
  return { width, height, light: all };
}

/** Places that tell: where light changes from one pixel to the next, spread over the picture. */
function tellingPlaces(pixels: Pixels, margin: number): Place[] {
  const { width, height } = pixels;
  const found: (Place & { readonly slope: number })[] = [];
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / (SAMPLES * 8))));
  for (let y = margin; y < height - margin - 1; y += step)
    for (let x = margin; x < width - margin - 1; x += step) {
      const i = 4 * (y * width + x);
      const own = light(pixels, i);
      const slope = Math.abs(own - light(pixels, i + 4)) + Math.abs(own - light(pixels, i + 4 * width));
      found.push({ x, y, own, slope });
    }
  found.sort((a, b) => b.slope - a.slope);
  return found.slice(0, SAMPLES);
}

/** The share of places of one picture at which another, laid `dx`, `dy` farther, has another light. */
function unlike(b: Lights, places: readonly Place[], dx: number, dy: number): number {
  let off = 0;
  let count = 0;
  for (const { x, y, own } of places) {
    const px = x + dx;
    const py = y + dy;
    if (px < 0 || py < 0 || px >= b.width || py >= b.height) continue;
    count++;
    if (Math.abs(own - b.light[py * b.width + px]!) > ALIKE) off++;
  }
  return count ? off / count : 1;
}

/** Pixels that are looked at, of pictures that are not held. */
const MOST = 8_000_000;

/** What is looked at of a picture: all of it where it is held, else as many rows about its middle as that is. */
function looked(rows: Rows): Pixels {
  if (rows.held) return rows.held;
  const count = Math.min(rows.height, Math.max(4 * REACH, Math.floor(MOST / rows.width)));
  return rows.rows((rows.height - count) >> 1, count);
}

/** By how many pixels the whole of the second, which is as large, has slipped against the first; null where nothing says so. */
export function shiftBetween(first: Rows, second: Rows): readonly [dx: number, dy: number] | null {
  const [a, b] = [looked(first), looked(second)];
  const places = tellingPlaces(a, Math.min(REACH, Math.floor(a.width / 4), Math.floor(a.height / 4)));
  if (places.length < 20) return null;
  const lights = lightsOf(b);
  const before = unlike(lights, places, 0, 0);
  if (before <= 0.05) return null;
  let best: readonly [number, number] | null = null;
  let least = before;
  for (let dy = -REACH; dy <= REACH; dy++)
    for (let dx = -REACH; dx <= REACH; dx++) {
      if (dx === 0 && dy === 0) continue;
      const found = unlike(lights, places, dx, dy);
      if (found < least) [least, best] = [found, [dx, dy]];
    }
  return best && least < before / 4 ? best : null;
}

/** Where in the first a smaller second lies; null where it is nowhere. Tries each way only as far as it is cheap to. */
export function cropBetween(first: Rows, second: Rows): readonly [left: number, top: number] | null {
  const [a, b] = [first.held, second.held];
  if (!a || !b) return null;
  const [spareX, spareY] = [a.width - b.width, a.height - b.height];
  if (spareX < 0 || spareY < 0 || (spareX + 1) * (spareY + 1) > 40_000) return null;
  const places = tellingPlaces(b, 1).slice(0, 600);
  if (places.length < 20) return null;
  const lights = lightsOf(a);
  let best: readonly [number, number] | null = null;
  let least = 0.1;
  for (let dy = 0; dy <= spareY; dy++)
    for (let dx = 0; dx <= spareX; dx++) {
      const found = unlike(lights, places, dx, dy);
      if (found < least) [least, best] = [found, [dx, dy]];
    }
  return best;
}

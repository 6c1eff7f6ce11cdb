import type { Pixels } from '../../pictures/engine';

/** How far a picture may have slipped for that to be found, pixels. */
const REACH = 12;
/** Places that are looked at for each way of laying one over the other. */
const SAMPLES = 4000;
/** Parts of 255 that light may differ by where pictures lie rightly. */
const ALIKE = 6;

/** Light of a pixel and how much of it shows, in one number of 0 to 255. */
function light({ data }: Pixels, i: number): number {
  const shift = data instanceof Uint16Array ? 8 : 0;
  const alpha = (data[i + 3]! >> shift) / 255;
  return (
    (0.2126 * (data[i]! >> shift) + 0.7152 * (data[i + 1]! >> shift) + 0.0722 * (data[i + 2]! >> shift)) * alpha +
    255 * (1 - alpha)
  );
}

/** Places that tell: where light changes from one pixel to the next, spread over the picture. */
function tellingPlaces(pixels: Pixels, margin: number): [x: number, y: number][] {
  const { width, height } = pixels;
  const found: [number, number, number][] = [];
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / (SAMPLES * 8))));
  for (let y = margin; y < height - margin - 1; y += step)
    for (let x = margin; x < width - margin - 1; x += step) {
      const i = 4 * (y * width + x);
      const own = light(pixels, i);
      found.push([x, y, Math.abs(own - light(pixels, i + 4)) + Math.abs(own - light(pixels, i + 4 * width))]);
    }
  found.sort((a, b) => b[2] - a[2]);
  return found.slice(0, SAMPLES).map(([x, y]) => [x, y]);
}

/** The share of places at which two pictures have another light, the second laid `dx`, `dy` farther. */
function unlike(a: Pixels, b: Pixels, places: readonly (readonly [number, number])[], dx: number, dy: number): number {
  let off = 0;
  let count = 0;
  for (const [x, y] of places) {
    const [px, py] = [x + dx, y + dy];
    if (px < 0 || py < 0 || px >= b.width || py >= b.height) continue;
    count++;
    if (Math.abs(light(a, 4 * (y * a.width + x)) - light(b, 4 * (py * b.width + px))) > ALIKE) off++;
  }
  return count ? off / count : 1;
}

/** By how many pixels the whole of the second has slipped against the first; null where nothing says so. */
export function shiftBetween(a: Pixels, b: Pixels): readonly [dx: number, dy: number] | null {
  const places = tellingPlaces(a, Math.min(REACH, Math.floor(a.width / 4), Math.floor(a.height / 4)));
  if (places.length < 20) return null;
  const before = unlike(a, b, places, 0, 0);
  let best: readonly [number, number] | null = null;
  let least = before;
  for (let dy = -REACH; dy <= REACH; dy++)
    for (let dx = -REACH; dx <= REACH; dx++) {
      if (dx === 0 && dy === 0) continue;
      const found = unlike(a, b, places, dx, dy);
      if (found < least) [least, best] = [found, [dx, dy]];
    }
  return best && before > 0.05 && least < before / 4 ? best : null;
}

/** Where in the first a smaller second lies; null where it is nowhere. Tries each way only as far as it is cheap to. */
export function cropBetween(a: Pixels, b: Pixels): readonly [left: number, top: number] | null {
  const [spareX, spareY] = [a.width - b.width, a.height - b.height];
  if (spareX < 0 || spareY < 0 || (spareX + 1) * (spareY + 1) > 40_000) return null;
  const places = tellingPlaces(b, 1).slice(0, 600);
  if (places.length < 20) return null;
  let best: readonly [number, number] | null = null;
  let least = 0.1;
  for (let dy = 0; dy <= spareY; dy++)
    for (let dx = 0; dx <= spareX; dx++) {
      const found = unlike(b, a, places, dx, dy);
      if (found < least) [least, best] = [found, [dx, dy]];
    }
  return best;
}

import type { Blur, Sharpen } from '../../document/corrections';
import type * as z from 'zod';
import type { Pixels } from '../../contracts/pictures';
import { fullOf } from './tones';

/** Widths of three boxes that together come near a bell curve (Kovesi, Fast Almost-Gaussian Filtering, 2010). */
function boxesFor(sigma: number): number[] {
  const ideal = Math.sqrt((12 * sigma * sigma) / 3 + 1);
  let lower = Math.floor(ideal);
  if (lower % 2 === 0) lower--;
  const few = Math.round((12 * sigma * sigma - 3 * lower * lower - 12 * lower - 9) / (-4 * lower - 4));
  return [0, 1, 2].map((i) => (i < few ? lower : lower + 2));
}

/** Means over a box along each row; beyond the ends the last value goes on. */
function boxRows(from: Float32Array, to: Float32Array, width: number, height: number, box: number): void {
  const half = (box - 1) / 2;
  const most = width - 1;
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = 0;
    for (let i = -half; i <= half; i++) sum += from[row + (i < 0 ? 0 : i > most ? most : i)]!;
    for (let x = 0; x < width; x++) {
      to[row + x] = sum / box;
      const [next, last] = [x + half + 1, x - half];
      sum += from[row + (next > most ? most : next)]! - from[row + (last < 0 ? 0 : last)]!;
    }
  }
}

/** As `boxRows`, along columns; row by row all the same, because that is how pixels lie. */
function boxColumns(from: Float32Array, to: Float32Array, width: number, height: number, box: number): void {
  const half = (box - 1) / 2;
  const most = height - 1;
  const sums = new Float64Array(width);
  const start = (y: number) => width * (y < 0 ? 0 : y > most ? most : y);
  for (let i = -half; i <= half; i++) {
    const row = start(i);
    for (let x = 0; x < width; x++) sums[x]! += from[row + x]!;
  }
  for (let y = 0; y < height; y++) {
    const [row, next, last] = [y * width, start(y + half + 1), start(y - half)];
    for (let x = 0; x < width; x++) {
      to[row + x] = sums[x]! / box;
      sums[x]! += from[next + x]! - from[last + x]!;
    }
  }
}

/** One part of all pixels, blurred. @param sigma of the bell, pixels */
export function blurredPlane(plane: Float32Array, width: number, height: number, sigma: number): Float32Array {
  let from: Float32Array = plane;
  let to: Float32Array = new Float32Array(plane.length);
  for (const box of boxesFor(sigma)) {
    if (box < 2) continue;
    boxRows(from, to, width, height, box);
    [from, to] = [to, from];
    boxColumns(from, to, width, height, box);
    [from, to] = [to, from];
  }
  return from;
}

/** Less is no blur, pixels. */
const LEAST = 0.2;
/** A radius in which about two thirds of a bell curve lie. */
const sigmaOf = (radius: number, scale: number): number => radius * scale;

/** Rows above and below that a blurred or sharpened row depends on. */
export const blurReach = (radius: number): number =>
  radius < LEAST ? 0 : boxesFor(radius).reduce((sum, box) => sum + Math.max(0, (box - 1) / 2), 0) + 1;

/** Colours weigh as much as they can be seen, so that nothing bleeds out of what is see-through. */
export function blur(pixels: Pixels, { radius }: z.infer<typeof Blur>, scale: number): Pixels {
  const { data, width, height } = pixels;
  const sigma = sigmaOf(radius, scale);
  if (sigma < LEAST) return pixels;
  const [count, full] = [width * height, fullOf(pixels)];
  const plane = new Float32Array(count);
  for (let i = 0; i < count; i++) plane[i] = data[4 * i + 3]! / full;
  const alpha = blurredPlane(plane, width, height, sigma);
  for (let part = 0; part < 3; part++) {
    const own = new Float32Array(count);
    for (let i = 0; i < count; i++) own[i] = (data[4 * i + part]! * data[4 * i + 3]!) / full;
    const soft = blurredPlane(own, width, height, sigma);
    for (let i = 0; i < count; i++) if (alpha[i]! > 1e-6) data[4 * i + part] = Math.min(full, Math.round(soft[i]! / alpha[i]!));
  }
  for (let i = 0; i < count; i++) data[4 * i + 3] = Math.min(full, Math.round(alpha[i]! * full));
  return pixels;
}

/** Light as the eye weighs it (ITU-R BT.709), on the numbers as they are. */
const [R, G, B] = [0.2126, 0.7152, 0.0722];

/** Adds what blurred light lacks (unsharp masking); on light alone, so that no edge gets a colour of its own. */
export function sharpen(pixels: Pixels, { radius, amount }: z.infer<typeof Sharpen>, scale: number): Pixels {
  const { data, width, height } = pixels;
  const sigma = sigmaOf(radius, scale);
  if (sigma < LEAST) return pixels;
  const [count, full] = [width * height, fullOf(pixels)];
  const light = new Float32Array(count);
  for (let i = 0, o = 0; i < count; i++, o += 4) light[i] = R * data[o]! + G * data[o + 1]! + B * data[o + 2]!;
  const soft = blurredPlane(light.slice(), width, height, sigma);
  for (let i = 0, o = 0; i < count; i++, o += 4) {
    const more = (light[i]! - soft[i]!) * amount;
    for (let part = o; part < o + 3; part++) {
      const value = data[part]! + more;
      data[part] = value < 0 ? 0 : value > full ? full : value + 0.5;
    }
  }
  return pixels;
}

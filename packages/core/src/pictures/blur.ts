import type { Blur, Sharpen } from '../master/corrections';
import type * as z from 'zod';
import type { Pixels } from './engine';
import { fullOf } from './tones';

/** Widths of three boxes that together come near a bell curve (Kovesi, Fast Almost-Gaussian Filtering, 2010). */
function boxesFor(sigma: number): number[] {
  const ideal = Math.sqrt((12 * sigma * sigma) / 3 + 1);
  let lower = Math.floor(ideal);
  if (lower % 2 === 0) lower--;
  const few = Math.round((12 * sigma * sigma - 3 * lower * lower - 12 * lower - 9) / (-4 * lower - 4));
  return [0, 1, 2].map((i) => (i < few ? lower : lower + 2));
}

/** Means over a box along a line of `count` values that stand `step` apart; beyond the ends the last value goes on. */
function boxLine(from: Float32Array, to: Float32Array, start: number, step: number, count: number, width: number): void {
  const half = (width - 1) / 2;
  const [first, last] = [from[start]!, from[start + (count - 1) * step]!];
  const at = (i: number) => (i < 0 ? first : i >= count ? last : from[start + i * step]!);
  let sum = 0;
  for (let i = -half; i <= half; i++) sum += at(i);
  for (let i = 0; i < count; i++) {
    to[start + i * step] = sum / width;
    sum += at(i + half + 1) - at(i - half);
  }
}

/** One part of all pixels, blurred. @param sigma of the bell, pixels */
export function blurredPlane(plane: Float32Array, width: number, height: number, sigma: number): Float32Array {
  let from: Float32Array = plane;
  let to: Float32Array = new Float32Array(plane.length);
  for (const box of boxesFor(sigma)) {
    if (box < 2) continue;
    for (let y = 0; y < height; y++) boxLine(from, to, y * width, 1, width, box);
    [from, to] = [to, from];
    for (let x = 0; x < width; x++) boxLine(from, to, x, width, height, box);
    [from, to] = [to, from];
  }
  return from;
}

/** A radius in which about two thirds of a bell curve lie. */
const sigmaOf = (radius: number, scale: number): number => radius * scale;

/** Colours weigh as much as they can be seen, so that nothing bleeds out of what is see-through. */
export function blur(pixels: Pixels, { radius }: z.infer<typeof Blur>, scale: number): Pixels {
  const { data, width, height } = pixels;
  const sigma = sigmaOf(radius, scale);
  if (sigma < 0.2) return pixels;
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

/** Adds what a blurred picture lacks (unsharp masking). */
export function sharpen(pixels: Pixels, { radius, amount }: z.infer<typeof Sharpen>, scale: number): Pixels {
  const { data, width, height } = pixels;
  const sigma = sigmaOf(radius, scale);
  if (sigma < 0.2) return pixels;
  const [count, full] = [width * height, fullOf(pixels)];
  for (let part = 0; part < 3; part++) {
    const own = new Float32Array(count);
    for (let i = 0; i < count; i++) own[i] = data[4 * i + part]!;
    const soft = blurredPlane(own.slice(), width, height, sigma);
    for (let i = 0; i < count; i++) {
      const value = own[i]! + (own[i]! - soft[i]!) * amount;
      data[4 * i + part] = value < 0 ? 0 : value > full ? full : Math.round(value);
    }
  }
  return pixels;
}

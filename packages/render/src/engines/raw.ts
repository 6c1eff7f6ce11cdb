import type { Pixels } from '@inkwell-twin/core';
import sharp, { type Sharp } from 'sharp';
import { PIXEL_LIMIT } from './limits';

/** What a pipeline made as numbers of 8 or 16 bits; nothing is copied where it begins where such numbers may. */
export function partsIn(data: Buffer, deep: boolean): Uint8Array | Uint16Array {
  if (!deep) return new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  const at = data.byteOffset % 2 ? Uint8Array.from(data) : data;
  return new Uint16Array(at.buffer, at.byteOffset, at.byteLength / 2);
}

/** Pixels as the library takes them in. */
export const fromPixels = ({ width, height, data }: Pixels): Sharp =>
  // The library tells 8 from 16 bits by the kind of array.
  sharp(data as Uint8Array, { raw: { width, height, channels: 4 }, limitInputPixels: PIXEL_LIMIT });

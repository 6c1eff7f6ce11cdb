import type { Pixels } from '../../contracts/pictures';

/** Fewer or more bits: rounded, or spread over the whole range. */
export function atDepth(pixels: Pixels, depth: 8 | 16): Pixels {
  const { data, width, height } = pixels;
  if (data instanceof Uint16Array === (depth === 16)) return pixels;
  const made = depth === 16 ? new Uint16Array(data.length) : new Uint8Array(data.length);
  // Plain loops: half a second where the array's own way takes ten.
  if (depth === 16) for (let i = 0; i < data.length; i++) made[i] = data[i]! * 257;
  else for (let i = 0; i < data.length; i++) made[i] = (data[i]! + 128) / 257;
  return { width, height, data: made };
}

import type { Pixels } from '../../contracts/pictures';
import { fullOf } from './tones';

/** How many pixels have each of 256 lightnesses (ITU-R BT.709 weights), weighed by how much of them shows. */
export function histogramOf(pixels: Pixels): Float64Array {
  const { data } = pixels;
  const shift = fullOf(pixels) > 255 ? 8 : 0;
  const counts = new Float64Array(256);
  for (let i = 0; i < data.length; i += 4) {
    const light = (0.2126 * data[i]! + 0.7152 * data[i + 1]! + 0.0722 * data[i + 2]!) / (1 << shift);
    counts[Math.min(255, Math.round(light))]! += (data[i + 3]! >> shift) / 255;
  }
  return counts;
}

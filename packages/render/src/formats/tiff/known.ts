import type { PictureFacts } from '@inkwell-twin/core';
import { PROFILE_TAG, XMP_TAG } from './tags';

/** Fields that say how pixels lie and are packed, which the library reads (TIFF 6.0, part 3 and 8). */
const PIXELS = [
  254, 255, 256, 257, 258, 259, 262, 266, 273, 274, 277, 278, 279, 280, 281, 284, 296, 317, 320, 322, 323, 324, 325, 338, 339,
  340, 341, 347, 529, 530, 531, 532,
];
/** Fields that tell of a picture and change nothing that one sees: who, what, when, with which program and camera. */
const NOTES = [269, 270, 271, 272, 285, 297, 305, 306, 315, 316, 33432, 33723, 34665, 34853, 40965, PROFILE_TAG, XMP_TAG];
const KNOWN = new Set([...PIXELS, ...NOTES]);
const [X_RESOLUTION, Y_RESOLUTION, EXTRA_SAMPLES] = [282, 283, 338];

/** Fields of the first directory of a TIFF that are not read and may show. */
export function unreadInTiff(tiff: Uint8Array, _facts: PictureFacts): string[] {
  const view = new DataView(tiff.buffer, tiff.byteOffset, tiff.byteLength);
  const little = tiff[0] === 0x49;
  const at = view.getUint32(4, little);
  const density = new Map<number, number>();
  const found: string[] = [];
  const count = at + 2 <= tiff.length ? view.getUint16(at, little) : 0;
  for (let i = 0, entry = at + 2; i < count && entry + 12 <= tiff.length; i++, entry += 12) {
    const tag = view.getUint16(entry, little);
    if (tag === X_RESOLUTION || tag === Y_RESOLUTION) {
      const place = view.getUint32(entry + 8, little);
      if (place + 8 <= tiff.length) density.set(tag, view.getUint32(place, little) / view.getUint32(place + 4, little));
    } else if (tag === EXTRA_SAMPLES) {
      // One or two of them stand in the field itself; 0 leaves to the reader what they are (TIFF 6.0, part 2, 18).
      const samples = Math.min(2, view.getUint32(entry + 4, little));
      for (let k = 0; k < samples; k++)
        if (view.getUint16(entry + 8 + 2 * k, little) === 0) found.push('channel of which nothing says what it is');
    } else if (!KNOWN.has(tag)) found.push(`field ${tag}`);
  }
  const [x, y] = [density.get(X_RESOLUTION), density.get(Y_RESOLUTION)];
  return x !== undefined && y !== undefined && Math.abs(x - y) > 0.005 * x ? [...found, 'pixels that are not square'] : found;
}

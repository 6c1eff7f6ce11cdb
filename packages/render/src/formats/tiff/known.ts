import type { PictureFacts } from '@inkwell-twin/core';
import { fieldsOf } from './directory';
import { PROFILE_TAG, XMP_TAG } from './tags';

/** Fields that say how pixels lie and are packed, which the library reads (TIFF 6.0, part 3 and 8). */
const PIXELS = [
  254, 255, 256, 257, 258, 259, 262, 266, 273, 274, 277, 278, 279, 280, 281, 284, 296, 317, 320, 322, 323, 324, 325, 338, 339,
  340, 341, 347, 529, 530, 531, 532,
];
/** Fields that tell of a picture and change nothing that one sees: who, what, when, with which program and camera. */
const NOTES = [269, 270, 271, 272, 285, 297, 305, 306, 315, 316, 318, 319, 40965, PROFILE_TAG, XMP_TAG];
const KNOWN = new Set([...PIXELS, ...NOTES]);
/** Numbers from here on belong to programs, and no reader need know them to show the picture (TIFF 6.0, section 8). */
const PRIVATE = 32_768;
const [X_RESOLUTION, Y_RESOLUTION, UNIT, EXTRA_SAMPLES] = [282, 283, 296, 338];

/** How many pixels go on a unit of length, and which: 1 none, 2 an inch, 3 a centimetre (TIFF 6.0, section 8). */
export function densitiesInTiff(tiff: Uint8Array): { x: number; y: number; unit: number } | null {
  const fields = new Map(fieldsOf(tiff).map(({ tag, first }) => [tag, first]));
  const [x, y] = [fields.get(X_RESOLUTION), fields.get(Y_RESOLUTION)];
  return x === undefined ? null : { x, y: y ?? x, unit: fields.get(UNIT) ?? 2 };
}

/** Fields of the first directory of a TIFF that are not read and may show. */
export function unreadInTiff(tiff: Uint8Array, _facts: PictureFacts): string[] {
  const found: string[] = [];
  for (const { tag, numbers } of fieldsOf(tiff)) {
    if (tag === X_RESOLUTION || tag === Y_RESOLUTION || KNOWN.has(tag)) {
      // 0 leaves to the reader what a channel is (TIFF 6.0, part 2, 18).
      if (tag === EXTRA_SAMPLES)
        for (const sample of numbers) if (sample === 0) found.push('channel of which nothing says what it is');
    } else if (tag < PRIVATE) found.push(`field ${tag}`);
  }
  const { x, y } = densitiesInTiff(tiff) ?? { x: 1, y: 1 };
  return Math.abs(x - y) > 0.005 * x ? [...found, 'pixels that are not square'] : found;
}

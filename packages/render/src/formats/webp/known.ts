import type { PictureFacts } from '@inkwell-twin/core';
import { exifOf, otherDensity } from '../exif';
import { riffPartsOf } from './parts';

/** What the library reads, and the packet with what is said about the picture (RFC 9649, 2.7); frames are counted by themselves. */
const KNOWN = new Set(['VP8X', 'VP8 ', 'VP8L', 'ALPH', 'ICCP', 'XMP ', 'ANIM', 'ANMF']);

/** Parts of a WebP that are not read and may show. */
export function unreadInWebp(webp: Uint8Array, { turned, ppi }: PictureFacts): string[] {
  const found: string[] = [];
  for (const { type, body } of riffPartsOf(webp)) {
    if (type === 'EXIF') {
      const exif = exifOf(body);
      if (exif.orientation > 1 && !turned) found.push('turn by notes of a camera');
      if (otherDensity(exif.ppi, ppi)) found.push('second density, another one');
    } else if (!KNOWN.has(type)) found.push(`part “${type.replace(/[^\x20-\x7e]/g, '?')}”`);
  }
  return found;
}

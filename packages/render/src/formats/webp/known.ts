import type { PictureFacts } from '@inkwell-twin/core';
import { exifOf, otherDensity } from '../exif';

/** What the library reads, and the packet with what is said about the picture (RFC 9649, 2.7); frames are counted by themselves. */
const KNOWN = new Set(['VP8X', 'VP8 ', 'VP8L', 'ALPH', 'ICCP', 'XMP ', 'ANIM', 'ANMF']);

/** Parts of a WebP that are not read and may show. */
export function unreadInWebp(webp: Uint8Array, { turned, ppi }: PictureFacts): string[] {
  const view = new DataView(webp.buffer, webp.byteOffset, webp.byteLength);
  const found: string[] = [];
  for (let at = 12; at + 8 <= webp.length;) {
    // Room that follows the end says nothing.
    if (at >= 8 + view.getUint32(4, true) && webp.subarray(at).every((byte) => byte === 0)) break;
    const type = String.fromCharCode(...webp.subarray(at, at + 4));
    const size = view.getUint32(at + 4, true);
    if (type === 'EXIF') {
      const exif = exifOf(webp.subarray(at + 8, at + 8 + size));
      if (exif.orientation > 1 && !turned) found.push('turn by notes of a camera');
      if (otherDensity(exif.ppi, ppi)) found.push('second density, another one');
    } else if (!KNOWN.has(type)) found.push(`part “${type.replace(/[^\x20-\x7e]/g, '?')}”`);
    at += 8 + size + (size % 2);
  }
  return found;
}

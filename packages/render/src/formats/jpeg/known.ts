import type { PictureFacts } from '@inkwell-twin/core';
import { exifOf, otherDensity } from '../exif';
import { segmentsOf } from './segments';

const [APP0, APP1, APP2, APP13, APP14, APP15, COM] = [0xe0, 0xe1, 0xe2, 0xed, 0xee, 0xef, 0xfe];
const CM_PER_INCH = 2.54;

const startsWith = (body: Uint8Array, text: string): boolean => [...text].every((letter, i) => body[i] === letter.charCodeAt(0));

/** Pixels per inch that a JFIF segment states (ITU-T T.871, 10.1); null where it states none, NaN where pixels are not square. */
function densityOf(body: Uint8Array): number | null {
  const [unit, x, y] = [body[7], (body[8]! << 8) | body[9]!, (body[10]! << 8) | body[11]!];
  if (x !== y) return Number.NaN;
  return unit === 1 ? x : unit === 2 ? x * CM_PER_INCH : null;
}

/** Captions, a small picture, and their checksums among what a program keeps beside a picture (IPTC IIM 4.2, by number). */
const BROKEN = 'part of what a program keeps beside the picture, which breaks off';
const SEEN_BY_NOBODY = new Set([0x0404, 0x0409, 0x040c, 0x0425]);
function resourcesIn(body: Uint8Array): string[] {
  const view = new DataView(body.buffer, body.byteOffset, body.byteLength);
  const found: string[] = [];
  let at = 14;
  while (at + 12 <= body.length && startsWith(body.subarray(at), '8BIM')) {
    const id = view.getUint16(at + 4);
    // A name with its length before it, padded to even.
    const name = at + 6 + ((body[at + 6]! + 2) & ~1);
    if (name + 4 > body.length) break;
    if (!SEEN_BY_NOBODY.has(id)) found.push('part of what a program keeps beside the picture');
    at = name + 4 + ((view.getUint32(name) + 1) & ~1);
  }
  // The last may be without its even byte.
  if (at > body.length + 1 || body.subarray(at).some((byte) => byte)) found.push(BROKEN);
  return found;
}

/** What each segment for applications says that is not read (ITU-T T.81, B.2.4.6). */
const SAYS: Readonly<Record<number, (body: Uint8Array, facts: PictureFacts) => readonly string[]>> = {
  [APP0]: (body, { ppi }) => {
    if (!startsWith(body, 'JFIF\0')) return startsWith(body, 'JFXX\0') ? [] : ['part for applications (APP0)'];
    const density = densityOf(body);
    if (Number.isNaN(density)) return ['pixels that are not square'];
    return otherDensity(density, ppi) ? ['second density, another one'] : [];
  },
  [APP1]: (body, { turned, ppi }) => {
    if (startsWith(body, 'http://ns.adobe.com/')) return []; // term-guard: standard (ISO 16684-3, 1.1.3)
    if (!startsWith(body, 'Exif\0')) return ['part for applications (APP1)'];
    const exif = exifOf(body);
    return [
      ...(exif.orientation > 1 && !turned ? ['turn by notes of a camera'] : []),
      ...(otherDensity(exif.ppi, ppi) ? ['second density, another one'] : []),
    ];
  },
  [APP2]: (body) =>
    startsWith(body, 'ICC_PROFILE\0') ? [] : [startsWith(body, 'MPF\0') ? 'more pictures' : 'part for applications (APP2)'],
  [APP13]: (body) => (body.length > 14 ? resourcesIn(body) : []),
  // It says how colours are packed, which the library reads.
  [APP14]: () => [],
};

/** Parts of a JPEG before its pixels that are not read and may show. */
export function unreadInJpeg(jpeg: Uint8Array, facts: PictureFacts): string[] {
  const found: string[] = [];
  for (const { marker, body } of segmentsOf(jpeg))
    if (marker >= APP0 && marker <= APP15 && marker !== COM)
      found.push(...(SAYS[marker]?.(body, facts) ?? [`part for applications (APP${marker - APP0})`]));
  return found;
}

import type { PictureFacts } from '@inkwell-twin/core';
import { exifOf, otherDensity } from '../exif';
import { type Chunk, chunksOf, numbersIn } from './chunks';

/** What the library reads, and what is seen by nobody (PNG 3rd edition, 11). */
const KNOWN = new Set('IHDR PLTE IDAT IEND tRNS iCCP sRGB tEXt zTXt iTXt tIME hIST sPLT sBIT'.split(' '));
const ANIMATION = new Set(['acTL', 'fcTL', 'fdAT']);
const METRES_PER_INCH = 0.0254;
/** Programs ask the part that is made for it, and few ask the notes. */
const ONLY_BY_CAMERA = 'density that only notes of a camera state';
/** The bend, and the primaries in 100,000ths, of sRGB (PNG 3rd edition, 11.3.2). */
const [SRGB_GAMMA, SRGB_PRIMARIES] = [45_455, [31_270, 32_900, 64_000, 33_000, 30_000, 60_000, 15_000, 6000]];
const SRGB_CODE_POINTS = [1, 13, 0, 1];

const numbers = ({ body }: Chunk): number[] => numbersIn(body);
const near = (values: readonly number[], meant: readonly number[]): boolean =>
  meant.every((value, i) => Math.abs(value - (values[i] ?? 0)) <= 100);

/** What each chunk says that is not read, in words; undefined where it says nothing more. */
const SAYS: Readonly<Record<string, (chunk: Chunk, all: readonly Chunk[], facts: PictureFacts) => string | undefined>> = {
  // A profile counts more than these (PNG 3rd edition, 4.3).
  gAMA: (chunk, all) =>
    all.some(({ type }) => type === 'iCCP' || type === 'sRGB') || near(numbers(chunk), [SRGB_GAMMA])
      ? undefined
      : 'brightness by gamma',
  cHRM: (chunk, all) =>
    all.some(({ type }) => type === 'iCCP' || type === 'sRGB') || near(numbers(chunk), SRGB_PRIMARIES)
      ? undefined
      : 'colours by other primaries',
  cICP: ({ body }) => (SRGB_CODE_POINTS.every((code, i) => body[i] === code) ? undefined : 'colours by code points'),
  bKGD: (_chunk, _all, { alpha }) => (alpha ? 'colour of what lies behind' : undefined),
  pHYs: (chunk, _all, { ppi }) => {
    const [x, y] = numbers(chunk) as [number, number];
    if (x !== y) return 'pixels that are not square';
    if (chunk.body[8] !== 1) return ppi === null ? undefined : ONLY_BY_CAMERA;
    return otherDensity(x * METRES_PER_INCH, ppi) ? 'second density, another one' : undefined;
  },
  eXIf: ({ body }, _all, { turned, ppi }) => {
    const exif = exifOf(body);
    if (exif.orientation > 1 && !turned) return 'turn by notes of a camera';
    return otherDensity(exif.ppi, ppi) ? 'second density, another one' : undefined;
  },
};

/** Parts of a PNG that are not read and may show. Private ones need not be known to show it (PNG 3rd edition, 5.4). */
export function unreadInPng(png: Uint8Array, facts: PictureFacts): string[] {
  const all = [...chunksOf(png)];
  const has = (named: (type: string) => boolean): boolean => all.some(({ type }) => named(type));
  return [
    ...(has((type) => ANIMATION.has(type)) ? ['animation'] : []),
    ...(facts.ppi !== null && !has((type) => type === 'pHYs') ? [ONLY_BY_CAMERA] : []),
    ...rest(all, facts),
  ];
}

const isPrivate = (type: string): boolean => /^[a-z]{2}/.test(type);
function rest(all: readonly Chunk[], facts: PictureFacts): string[] {
  return all.flatMap((chunk) => {
    const { type } = chunk;
    if (KNOWN.has(type) || ANIMATION.has(type) || isPrivate(type)) return [];
    const said = SAYS[type];
    const words = said ? said(chunk, all, facts) : `part “${type.replace(/[^\x20-\x7e]/g, '?')}”`;
    return words ? [words] : [];
  });
}

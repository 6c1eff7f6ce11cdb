import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';
import { DESCRIPTION } from '../description-option';
import { ALPHA, BACKGROUND, PIXELS, SIZE, carriesPixels } from '../pixel-options';
import { begins } from '../../base/bytes/begins';

/** Both orders of bytes, with offsets of 32 bits and of 64. */
const STARTS: readonly (readonly (string | number)[])[] = [
  ['II*', 0],
  ['MM', 0, '*'],
  ['II+', 0],
  ['MM', 0, '+'],
];

/** Pixels for print. */
export const tiffDeclaration: Declaration = {
  ...PIXELS,
  id: 'tiff',
  label: 'TIFF picture',
  offered: 50,
  standard: 'TIFF 6.0, XMP',
  mediaType: 'image/tiff',
  options: z.strictObject({
    ...SIZE,
    depth: z.enum(['8', '16']).default('16').describe('Bits per colour'),
    transparency: ALPHA,
    background: BACKGROUND,
    compression: z.enum(['none', 'lzw', 'deflate']).default('deflate').describe('How it is packed, without loss'),
    ...DESCRIPTION,
  }),
  extension: () => 'tif',
  carries: (options) =>
    carriesPixels(options, {
      format: 'tiff',
      depth: options['depth'] === '16' ? 16 : 8,
      alpha: options['transparency'] === 'kept',
      quality: null,
      compression: String(options['compression']),
    }),
  recognise: { signature: (head) => STARTS.some((start) => begins(head, ...start)) },
};

import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';
import { DESCRIPTION } from '../description-option';
import { BACKGROUND, PIXELS, QUALITY, SIZE, SMALLER_PIXELS, carriesPixels } from '../pixel-options';
import { begins } from '../../base/bytes/begins';

/** Photographs for the web and for mail. */
export const jpegDeclaration: Declaration = {
  ...PIXELS,
  id: 'jpeg',
  label: 'JPEG picture',
  offered: 40,
  standard: 'ITU-T T.81, JFIF 1.02, XMP',
  mediaType: 'image/jpeg',
  options: z.strictObject({
    ...SIZE,
    background: BACKGROUND,
    quality: QUALITY,
    chroma: z.enum(['4:4:4', '4:2:0']).default('4:4:4').describe('How finely colour is kept'),
    progressive: z.enum(['no', 'yes']).default('no').describe('Shows coarse first, then finer'),
    ...DESCRIPTION,
  }),
  smaller: SMALLER_PIXELS,
  extension: () => 'jpg',
  carries: (options) =>
    carriesPixels(options, {
      format: 'jpeg',
      depth: 8,
      alpha: false,
      quality: Number(options['quality']),
      chroma: options['chroma'] as '4:4:4' | '4:2:0',
      progressive: options['progressive'] === 'yes',
    }),
  recognise: { signature: (head) => begins(head, 0xff, 0xd8, 0xff) },
};

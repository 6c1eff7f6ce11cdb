import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';
import { DESCRIPTION } from '../description-option';
import { ALPHA, BACKGROUND, PIXELS, SIZE, carriesPixels } from '../pixel-options';
import { begins } from '../../base/bytes/begins';

/** Pixels without loss. */
export const pngDeclaration: Declaration = {
  ...PIXELS,
  id: 'png',
  label: 'PNG picture',
  offered: 30,
  standard: 'PNG (Third Edition), XMP',
  mediaType: 'image/png',
  options: z.strictObject({
    ...SIZE,
    depth: z.enum(['8', '16']).default('8').describe('Bits per colour'),
    transparency: ALPHA,
    background: BACKGROUND,
    compression: z.coerce.number().int().min(0).max(9).default(6).describe('How hard to pack').meta({ unit: 'of 9' }),
    ...DESCRIPTION,
  }),
  extension: () => 'png',
  carries: (options) =>
    carriesPixels(options, {
      format: 'png',
      depth: options['depth'] === '16' ? 16 : 8,
      alpha: options['transparency'] === 'kept',
      quality: null,
      compression: String(options['compression']),
    }),
  recognise: { signature: (head) => begins(head, 0x89, 'PNG\r\n', 0x1a, '\n') },
};

import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';
import { DESCRIPTION } from '../description-option';
import { ALPHA, BACKGROUND, PIXELS, QUALITY, SIZE, carriesPixels } from '../pixel-options';
import { begins } from '../../base/bytes/begins';

/** Small pictures for the web. */
export const webpDeclaration: Declaration = {
  ...PIXELS,
  id: 'webp',
  label: 'WebP picture',
  offered: 60,
  standard: 'RFC 9649, XMP',
  mediaType: 'image/webp',
  options: z.strictObject({
    ...SIZE,
    transparency: ALPHA,
    background: BACKGROUND,
    packing: z.enum(['with loss', 'without loss']).default('with loss').describe('Whether fine detail may go'),
    quality: QUALITY,
    ...DESCRIPTION,
  }),
  extension: () => 'webp',
  carries: (options) =>
    carriesPixels(options, {
      format: 'webp',
      depth: 8,
      alpha: options['transparency'] === 'kept',
      quality: options['packing'] === 'with loss' ? Number(options['quality']) : null,
    }),
  recognise: { signature: (head) => begins(head, 'RIFF') && begins(head.subarray(8), 'WEBP') },
};

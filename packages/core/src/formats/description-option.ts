import * as z from 'zod';
import type { Options } from '../contracts/declaration';

/** Whether a copy says what its master says of itself. Copies from before there was the choice do not; new ones do. */
export const DESCRIPTION = {
  description: z
    .enum(['left out', 'inside'])
    .default('left out')
    .describe('Title, keywords, caption and rights')
    .meta({ fresh: 'inside', words: { 'left out': 'Left out', inside: 'Title, keywords, caption and rights' } }),
};

export const describes = ({ description }: Options): boolean => description === 'inside';

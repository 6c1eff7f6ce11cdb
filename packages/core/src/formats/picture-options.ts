import * as z from 'zod';
import type { Options } from '../contracts/declaration';
import type { DrawingCarries } from '../content/drawing/features';

/** How dense and how fine pictures within a drawing are: what targets that hold them as files ask. */
export const PICTURES = {
  pictures: z.coerce
    .number()
    .int()
    .min(0)
    .max(2400)
    .default(0)
    .describe('Pictures are no denser than this where they are shown; 0: as they are')
    .meta({ unit: 'ppi', only: { feature: 'pictures' } }),
  fineness: z.coerce
    .number()
    .int()
    .min(1)
    .max(100)
    .default(85)
    .describe('Quality of pictures that are made smaller')
    .meta({ unit: 'of 100', only: { feature: 'pictures' } }),
};

/** From as good as it gets to hardly to be looked at: pixels an inch, and quality. */
const STEPS = [
  [600, 95],
  [300, 90],
  [220, 85],
  [150, 80],
  [110, 70],
  [72, 55],
  [40, 35],
] as const;

/** Options that make such a copy smaller and smaller. */
export const SMALLER: readonly Options[] = STEPS.map(([pictures, fineness]) => ({ pictures, fineness }));

/** What becomes of pictures by those options. @param words what becomes of those that are not made smaller */
export function carriesPictures({ pictures, fineness }: Options, words: string): DrawingCarries['pictures'] {
  const ppi = Number(pictures ?? 0);
  return ppi
    ? {
        outcome: 'approximated',
        words: `have at most ${ppi} pixels an inch where they are shown, at quality ${fineness}`,
        shrunk: { ppi, quality: Number(fineness) },
      }
    : { outcome: 'restated', words };
}

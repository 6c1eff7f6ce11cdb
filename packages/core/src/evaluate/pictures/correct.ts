import type { Correction, CorrectionKind } from '../../document/corrections';
import { blur, sharpen } from './blur';
import { cutOut } from './cut-out';
import type { Pixels } from '../../contracts/pictures';
import { straighten } from './straighten';
import { contrast, exposure, levels, saturation, singleInk, whitePoint } from './tones';

/**
 * Changes pixels in place, or makes new ones.
 * @param scale pixels there are for one of the whole picture: radii are of the whole
 */
type Correct<C> = (pixels: Pixels, correction: C, scale: number) => Pixels;

const CORRECT: { readonly [K in CorrectionKind]: Correct<Extract<Correction, { kind: K }>> } = {
  levels,
  exposure,
  contrast,
  saturation,
  'white point': whitePoint,
  'single ink': singleInk,
  sharpen,
  blur,
  straighten,
  'cut-out': cutOut,
};

/**
 * A picture with its corrections, one after the other. Pure: the pixels that are given stay as they are.
 * @param scale 0.25 where these are a quarter of the picture's pixels each way
 */
export function correct(pixels: Pixels, corrections: readonly Correction[], scale = 1): Pixels {
  const acting = corrections.filter(({ off }) => !off);
  if (!acting.length) return pixels;
  let now: Pixels = { ...pixels, data: pixels.data.slice() };
  for (const one of acting) now = (CORRECT[one.kind] as Correct<Correction>)(now, one, scale);
  return now;
}

import type { PictureEngine } from '@inkwell-twin/core';
import { withXmp } from '../targets/xmp-in';
import { drawSvg, encode, laidDown, paint, png, resize } from './make';
import { facts, glance, pixels, raster, rows } from './open';

/** What reads and makes pictures under Node.js. */
export const pictureEngine: PictureEngine = {
  facts,
  pixels,
  glance,
  rows,
  raster,
  laidDown,
  resize,
  paint,
  drawSvg,
  encode,
  withXmp,
  png,
};

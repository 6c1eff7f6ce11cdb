import type { PictureEngine } from '@inkwell-twin/core';
import { withXmp } from '../formats/xmp-in';

// Pictures are the heaviest library of all: who only looks at a drawing does not wait for it.
const open = () => import('./open');
const make = () => import('./make');

/** What reads and makes pictures under Node.js. */
export const pictureEngine: PictureEngine = {
  facts: async (bytes) => (await open()).facts(bytes),
  pixels: async (bytes, depth) => (await open()).pixels(bytes, depth),
  thumbnail: async (bytes, most) => (await open()).thumbnail(bytes, most),
  rows: async (bytes, depth) => (await open()).rows(bytes, depth),
  raster: async (bytes) => (await open()).raster(bytes),
  laidDown: async (rows) => (await make()).laidDown(rows),
  resize: async (rows, width, height) => (await make()).resize(rows, width, height),
  paint: async (drawing, width, height) => (await make()).paint(drawing, width, height),
  drawSvg: async (document, width, height) => (await make()).drawSvg(document, width, height),
  encode: async (rows, encoding) => (await make()).encode(rows, encoding),
  withXmp,
  png: async (pixels) => (await make()).png(pixels),
};

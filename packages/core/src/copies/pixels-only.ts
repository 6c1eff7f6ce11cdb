import type { RasterCarries } from '../content/raster/features';

/** Where something is compared as it is seen, only the pixels matter. */
export const PIXELS_ONLY = {
  pixels: 'kept',
  'colour profile': 'left out',
  depth: 'left out',
  density: 'left out',
} as RasterCarries;

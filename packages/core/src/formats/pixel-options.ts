import * as z from 'zod';
import type { RasterCarries } from '../content/raster/features';
import type { SeenCarries } from '../content/seen/features';
import { VIEWS, type ViewName } from '../document/solids/views';
import { type Encoding, PROFILES } from '../document/picture-encoding';
import type { Options } from '../contracts/declaration';
import { describes } from './description-option';
import type { Use } from '../contracts/uses';

/** How large, and in which colours: what all targets of pixels ask. */
export const SIZE = {
  ppi: z.coerce
    .number()
    .min(0)
    .max(2400)
    .default(0)
    .describe('Pixels per inch; 0: as many as the sharpest picture has, 300 where there is none')
    .meta({ unit: 'ppi' }),
  width: z.coerce
    .number()
    .int()
    .min(0)
    .max(30_000)
    .default(0)
    .describe('Width; 0: as the density makes it')
    .meta({ unit: 'pixels' }),
  profile: z.enum(PROFILES).default('sRGB').describe('Colours are stated in'),
  view: z.enum(VIEWS).default('isometric').describe('Where a solid is seen from'),
};
export const ALPHA = z
  .enum(['kept', 'laid over'])
  .default('kept')
  .describe('What is see-through stays so, or is laid over the background colour');
export const BACKGROUND = z
  .string()
  .regex(/^#[0-9a-f]{6}$/, 'must be a colour such as #ffffff')
  .default('#ffffff')
  .describe('Background colour under what is see-through');
export const QUALITY = z.coerce.number().int().min(1).max(100).default(90).describe('Quality').meta({ unit: 'of 100' });

/** Options that make a picture with loss smaller and smaller: first its quality, then its density, too. */
export const SMALLER_PIXELS: readonly Options[] = [
  { quality: 90, ppi: 300 },
  { quality: 75, ppi: 300 },
  { quality: 75, ppi: 220 },
  { quality: 70, ppi: 150 },
  { quality: 60, ppi: 96 },
  { quality: 50, ppi: 48 },
  { quality: 40, ppi: 24 },
];

/** What becomes of a board as pixels. */
export function carriesPixels(
  options: Options,
  encoding: Omit<Encoding, 'ppi' | 'profile'>,
): { raster: RasterCarries; seen: SeenCarries } {
  const { ppi, width, profile, background, view } = options as {
    ppi: number;
    width: number;
    profile: Encoding['profile'];
    background: string;
    view: ViewName;
  };
  const words = `lie over ${background}`;
  const raster: RasterCarries = {
    pixels: { outcome: 'restated', words: 'becomes pixels', ppi, width, encoding: { ...encoding, profile } },
    transparency: encoding.alpha ? 'kept' : { outcome: 'approximated', words, over: background },
    'colour profile': 'kept',
    depth: encoding.depth === 16 ? 'kept' : { outcome: 'approximated', words: '8 bits' },
    density: encoding.format === 'webp' ? 'left out' : 'kept',
    compression:
      encoding.quality === null ? 'kept' : { outcome: 'approximated', words: `is lost a little at quality ${encoding.quality}` },
  };
  return {
    raster,
    seen: { ...raster, solids: { outcome: 'approximated', words: 'become a picture: no solid can be made of it again', view } },
  };
}

/** What targets of pixels share. */
export const PIXELS = {
  writer: '2',
  versions: null,
  describes,
  use: (): Use => 'delivery',
  tolerance: { raster: 0 },
  holds: { leaves: 'one', files: (): 'one' => 'one', mark: 'inside' },
  limits: {},
} as const;

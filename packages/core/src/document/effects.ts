import * as z from 'zod';
import { Id, share } from './schema-parts-base';
import { OutlineSchema } from './outline-schema';

/** How something mixes with what lies under it (Compositing and Blending Level 1, 10). */
export const BLENDS = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'hue',
  'saturation',
  'color',
  'luminosity',
] as const;
export type Blend = (typeof BLENDS)[number];

/** An area: outlines filled together by a rule. */
export const ClipShape = z.object({ outlines: z.array(OutlineSchema), rule: z.enum(['nonzero', 'evenodd']) });
export type ClipShape = z.infer<typeof ClipShape>;

export const MASK_KINDS = ['luminance', 'alpha'] as const;
export type MaskKind = (typeof MASK_KINDS)[number];

/** A symbol whose lightness, or whose cover, says how much of something shows (CSS Masking Level 1, 7). */
export const Mask = z.object({ kind: z.enum(MASK_KINDS), symbol: Id });
export type Mask = z.infer<typeof Mask>;

/** What a group does to what is in it, all of it taken as one; all in the group's own axes. */
export const groupEffects = {
  opacity: share.optional(),
  blend: z.enum(BLENDS).optional(),
  /** Only what is inside any of these areas shows. */
  clip: z.array(ClipShape).max(1000).optional(),
  mask: Mask.optional(),
};

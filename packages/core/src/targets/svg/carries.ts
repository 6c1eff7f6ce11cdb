import { z } from 'zod';
import type { Carries, OptionValues } from '../target';

/** Options of the target, with defaults. */
export const options = z.strictObject({
  version: z.enum(['1.1']).default('1.1').describe('SVG version'),
  text: z.enum(['text', 'outlines']).default('text').describe('Text stays text, or becomes outlines that need no font'),
  precision: z.coerce.number().int().min(2).max(6).default(3).describe('Decimals of a coordinate (mm)'),
});

/** What the target holds under its options. */
export const carries = (values: OptionValues): Carries => ({
  processes: 'all',
  layerLabel: ({ name }) => name,
  layerNames: 'kept',
  layerColour: false,
  sheet: true,
  background: true,
  fill: true,
  stroke: true,
  opacity: true,
  strokeWidth: true,
  palette: null,
  text: values['text'] === 'outlines' ? 'outlines' : 'kept',
  arcs: 'kept',
  cubics: 'kept',
  chord: 0,
  step: 0,
  order: 'paint',
});

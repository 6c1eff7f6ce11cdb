import { z } from 'zod';
import type { Carries, OptionValues } from '../target';
import { PALETTE } from './colours';

/** Line widths that group 370 may hold, in mm. */
export const LINE_WIDTHS = [
  0, 5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70, 80, 90, 100, 106, 120, 140, 158, 200, 211,
].map((hundredths) => hundredths / 100);

/** Versions of the format that can be written, oldest first. */
export const VERSIONS = ['R12', '2000'] as const;

/** Options of the target, with defaults. */
export const options = z.strictObject({
  version: z.enum(VERSIONS).default('2000').describe('Version of the format'),
  curves: z
    .enum(['as the version allows', 'arcs', 'short lines'])
    .default('as the version allows')
    .describe('Free curves: splines where there are any, arcs, or short lines'),
  text: z.enum(['text', 'outlines']).default('text').describe('Text stays text, or becomes outlines that need no font'),
  chord: z.coerce.number().min(0.001).max(1).default(0.01).describe('What stands for a curve is at most this far off (mm)'),
});

function layerNameR12(name: string): string {
  // R12 symbol names: capitals, digits, $ - and _, at most 31 of them.
  const plain = name
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .toUpperCase();
  return plain.replace(/[^A-Z0-9$_-]+/g, '_').slice(0, 31) || '0';
}

const layerName2000 = (name: string): string => name.replace(/[<>/\\":;?*|=`,]/g, '_').slice(0, 255);

/** What the target holds under its options. */
export const carries = (values: OptionValues): Carries => {
  const r12 = values['version'] === 'R12';
  const curves = values['curves'];
  return {
    processes: 'all',
    layerLabel: ({ name }) => (r12 ? layerNameR12(name) : layerName2000(name)),
    layerNames: 'repaired',
    layerColour: true,
    sheet: false,
    background: false,
    fill: false,
    stroke: true,
    unstroked: 'layer colour',
    opacity: false,
    strokeWidth: r12 ? false : LINE_WIDTHS,
    palette: PALETTE,
    text: values['text'] === 'outlines' ? 'outlines' : 'upright',
    arcs: 'kept',
    cubics: curves === 'short lines' ? 'chords' : curves === 'arcs' || r12 ? 'arcs' : 'kept',
    chord: Number(values['chord']),
    step: 0,
    order: 'none',
  };
};

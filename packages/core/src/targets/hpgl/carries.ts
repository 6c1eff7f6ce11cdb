import { z } from 'zod';
import type { Process } from '../../master/schema';
import type { Carries, OptionValues } from '../target';

/** Plotter units: 40 to the millimetre. */
export const UNITS_PER_MM = 40;

const PEN_OF: Partial<Record<Process, number>> = { cut: 1, score: 2, engrave: 3 };

/** Options of the target, with defaults. */
export const options = z.strictObject({
  chord: z.coerce.number().min(0.005).max(1).default(0.05).describe('Curves become short lines, at most this far off (mm)'),
  pens: z
    .enum(['by process', 'one pen'])
    .default('by process')
    .describe('Cut, score and engrave on pens 1, 2 and 3, or all on pen 1'),
});

/** What the target holds under its options. */
export const carries = (values: OptionValues): Carries => ({
  processes: ['cut', 'score', 'engrave'],
  layerLabel: ({ process }) => `Pen ${values['pens'] === 'one pen' ? 1 : (PEN_OF[process] ?? 1)}`,
  layerNames: 'process',
  layerColour: false,
  sheet: false,
  background: false,
  fill: false,
  stroke: false,
  opacity: false,
  strokeWidth: false,
  palette: null,
  text: 'outlines',
  arcs: 'chords',
  cubics: 'chords',
  chord: Number(values['chord']),
  step: 1 / UNITS_PER_MM,
  order: 'sequence',
});

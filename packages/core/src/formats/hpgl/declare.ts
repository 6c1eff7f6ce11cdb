import * as z from 'zod';
import type { Process } from '../../document/schema';
import type { Tool } from '../../content/tool-path/tool-path';
import type { Declaration } from '../../contracts/declaration';
import { withoutPrologue } from './escapes';

/** Plotter units: 40 to the millimetre. */
export const UNITS_PER_MM = 40;
/** The format says speeds in cm/s. */
export const MM_PER_CM = 10;

/** An instruction that files begin with, whole. */
const BEGINS = /^[\s;]*(?:IN|DF|BP|SP|PU|PA|CO\s*"[^"]*")[\d\s,-]*;/;
const PEN_OF: Partial<Record<Process, number>> = { cut: 1, score: 2, engrave: 3 };
export const pen = (number: number): Tool => ({ number, name: `Pen ${number}` });

/** Cut files of plotters and plotter-cutters. */
export const hpglDeclaration: Declaration = {
  id: 'hpgl',
  label: 'Cut file (HP-GL)',
  offered: 80,
  standard: 'HP-GL',
  mediaType: 'application/vnd.hp-hpgl',
  writer: '1',
  options: z.strictObject({
    chord: z.coerce
      .number()
      .min(0.005)
      .max(1)
      .default(0.05)
      .describe('Curves become short lines, at most this far off')
      .meta({ unit: 'mm' }),
    pens: z
      .enum(['by process', 'one pen'])
      .default('by process')
      .describe('Cut, score and engrave on pens 1, 2 and 3, or all on pen 1'),
    speed: z.coerce
      .number()
      .int()
      .min(0)
      .max(100)
      .default(0)
      .describe('Speed with the pen down; 0 leaves it to the machine')
      .meta({ unit: 'cm/s' }),
  }),
  versions: null,
  use: () => 'machine',
  extension: () => 'plt',
  carries: ({ chord, pens, speed }) => {
    const words = 'become short lines';
    const within = Number(chord);
    return {
      toolPath: {
        moves: {
          outcome: 'approximated',
          words: `are rounded to steps of ${1 / UNITS_PER_MM} mm`,
          step: 1 / UNITS_PER_MM,
        },
        arcs: { outcome: 'approximated', words, within },
        curves: { outcome: 'approximated', words, within },
        text: { outcome: 'restated', words: 'becomes outlines: same look, no longer text' },
        tools: {
          outcome: 'restated',
          words: 'become pens by their process',
          of: Object.fromEntries(
            Object.entries(PEN_OF).map(([process, number]) => [process, pen(pens === 'one pen' ? 1 : number)]),
          ),
        },
        speed: speed ? { outcome: 'restated', words: 'is that of the option', of: () => Number(speed) * MM_PER_CM } : 'left out',
        order: 'kept',
        fills: 'left out',
        'line colours': 'left out',
        'line widths': 'left out',
        dashes: 'left out',
        pictures: 'left out',
        opacity: 'left out',
        background: 'left out',
      },
    };
  },
  tolerance: { toolPath: 0.05 },
  holds: { leaves: 'one', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: { structure: (head) => BEGINS.test(withoutPrologue(new TextDecoder('latin1').decode(head))) },
};

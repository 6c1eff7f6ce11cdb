import * as z from 'zod';
import type { Process } from '../../document/schema';
import type { Tool } from '../../content/tool-path/tool-path';
import type { Declaration } from '../../contracts/declaration';
import { MACHINE_PROCESSES, type MachineProfile, toolFor } from '../../base/machines';
import { ENGRAVING, FITTING, KNIFE, SEQUENCE, SHEET, planSettings } from '../machine-options';
import { withoutPrologue } from './escapes';

/** Plotter units: 40 to the millimetre. */
export const UNITS_PER_MM = 40;
/** The format says speeds in cm/s. */
export const MM_PER_CM = 10;

const LANGUAGE = 'HP-GL';
/** An instruction that files begin with, whole. */
const BEGINS = /^[\s;]*(?:IN|DF|BP|SP|PU|PA|CO\s*"[^"]*")[\d\s,-]*;/;
const PEN_OF: Partial<Record<Process, number>> = { cut: 1, score: 2, engrave: 3 };
export const pen = (number: number): Tool => ({ number, name: `Pen ${number}` });

/** Which pen a process is done with on a machine. */
const toolsOf = (machine: MachineProfile): Partial<Record<Process, Tool>> =>
  Object.fromEntries(
    MACHINE_PROCESSES.flatMap((process) => {
      const tool = toolFor(machine, process);
      return tool ? [[process, pen(tool.number)] as const] : [];
    }),
  );
/** How fast a tool of a machine goes, mm/s, in the steps of the format. */
const feedOf =
  ({ tools }: MachineProfile) =>
  ({ number }: Tool): number =>
    Math.max(1, Math.round((tools.find((tool) => tool.number === number)?.feed ?? 0) / 60 / MM_PER_CM)) * MM_PER_CM;

/** Cut files of plotters and plotter-cutters. */
export const hpglDeclaration: Declaration = {
  id: 'hpgl',
  label: 'Cut file (HP-GL)',
  offered: 80,
  standard: LANGUAGE,
  mediaType: 'application/vnd.hp-hpgl',
  writer: '3',
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
    // Copies from before there were machines are for any of them.
    machine: z
      .string()
      .max(40_000)
      .default('')
      .describe('The machine that the copy is for; any where none is named')
      .meta({ machines: LANGUAGE }),
    ...KNIFE,
    ...ENGRAVING,
    ...SHEET,
    ...SEQUENCE,
    ...FITTING,
  }),
  versions: null,
  use: () => 'machine',
  extension: () => 'plt',
  carries: (options) => {
    const { chord, pens, speed } = options;
    const settings = options['machine'] ? { ...planSettings(options), arcs: Number(chord) } : null;
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
        tools: settings
          ? { outcome: 'restated', words: 'become tools of the machine', of: toolsOf(settings.machine), settings }
          : {
              outcome: 'restated',
              words: 'become pens by their process',
              of: Object.fromEntries(
                Object.entries(PEN_OF).map(([process, number]) => [process, pen(pens === 'one pen' ? 1 : number)]),
              ),
            },
        work: settings ? 'kept' : 'left out',
        speed: speed
          ? { outcome: 'restated', words: 'is that of the option', of: () => Number(speed) * MM_PER_CM }
          : settings
            ? { outcome: 'restated', words: 'is that of the machine’s tools', of: feedOf(settings.machine) }
            : 'left out',
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

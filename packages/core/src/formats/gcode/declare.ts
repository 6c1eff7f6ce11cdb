import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';
import { ENGRAVING, FITTING, MILLING, SEQUENCE, SHEET, machineOfOptions, machineOption, planSettings } from '../machine-options';

/** ISO 6983-1, the words of which the writer keeps to. */
const LANGUAGE = 'ISO 6983-1';
/** A word of a program: a letter and its number. */
const WORD = /^[GMTSFXYZIJKRPQN][+-]?(?:\d+(?:\.\d*)?|\.\d+)/i;

/** Whether a line is words of a program and nothing else, its notes apart. */
function isBlock(line: string): boolean {
  let rest = line
    .split(';')[0]!
    .replaceAll(/\([^()]*\)/g, '')
    .replaceAll(/\s/g, '');
  if (!rest) return false;
  for (let word = WORD.exec(rest); word; word = WORD.exec(rest)) rest = rest.slice(word[0].length);
  return rest === '';
}
/** Lines that say nothing by themselves: notes, the number of a program, the sign at both ends. */
const isNote = (line: string): boolean =>
  line === '' || line.startsWith('%') || line.startsWith(';') || line.startsWith('(') || /^O\d/i.test(line);

/** How many lines of a beginning have to be words of a program, of those that are not notes. */
const ENOUGH = 3;

/** So much of a file is looked at, bytes. */
const REACH = 4096;

function looksLikeProgram(file: Uint8Array): boolean {
  const head = file.subarray(0, REACH);
  const lines = new TextDecoder('latin1').decode(head).split(/\r\n|\r|\n/);
  // The last line may be cut in two.
  const words = lines.slice(0, head.length < REACH ? lines.length : -1).map((line) => line.trim());
  const said = words.filter((line) => !isNote(line));
  const fits = said.filter(isBlock);
  return fits.length >= ENOUGH && fits.length > 0.95 * said.length && fits.some((line) => /G\s*0*[0-3](?!\d)/i.test(line));
}

/** Programs of machines whose tools go up and down. */
export const gcodeDeclaration: Declaration = {
  id: 'gcode',
  label: 'Machine program (G-code)',
  offered: 82,
  standard: LANGUAGE,
  mediaType: 'text/x.gcode',
  writer: '2',
  options: z.strictObject({
    ...machineOption(LANGUAGE),
    unit: z.enum(['as the machine', 'mm', 'inch']).default('as the machine').describe('Unit of lengths in the file'),
    arcs: z.enum(['arcs', 'lines']).default('arcs').describe('Arcs stay arcs, or become short lines'),
    numbers: z.enum(['none', 'every line']).default('none').describe('Numbers of lines'),
    ...MILLING,
    ...ENGRAVING,
    ...SHEET,
    ...SEQUENCE,
    ...FITTING,
  }),
  versions: null,
  use: () => 'machine',
  extension: () => 'nc',
  carries: (options) => {
    const unit = options['unit'] === 'as the machine' ? machineOfOptions(options).unit : options['unit'];
    const arcs = options['arcs'] === 'arcs';
    return {
      machining: {
        ways: {
          outcome: 'restated',
          words: 'become the ways of the middle of a tool',
          unit: unit === 'inch' ? 25.4 : 1,
          decimals: unit === 'inch' ? 5 : 4,
          settings: planSettings(options),
        },
        curves: {
          outcome: 'approximated',
          words: arcs ? 'become arcs and lines' : 'become short lines',
          within: 0.002,
        },
        text: { outcome: 'restated', words: 'becomes outlines: same look, no longer text' },
        work: { outcome: 'restated', words: 'become tools, passes and depths' },
        order: { outcome: 'restated', words: 'is such that holes come before what they are in' },
        feed: { outcome: 'restated', words: 'are those of the machine’s tools' },
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
  tolerance: { machining: 0.005 },
  holds: { leaves: 'one', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: { shape: (head) => looksLikeProgram(head) },
};

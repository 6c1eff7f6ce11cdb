import { type MachineProfile } from '@inkwell-twin/core';
import type { Answer } from '../output';
import { machineAsked, machinesFor } from '../preset';
import type { Arguments } from './shared';

const toolLine = ({ number, name, does, diameter, pass, flute, feed, speed }: MachineProfile['tools'][number]): string =>
  `  ${String(number).padStart(2)}  ${name}: ${does.join(', ')}; ${diameter} mm wide${
    flute ? `, ${pass} mm a pass, ${flute} mm at most` : ''
  }, ${feed} mm/min${speed ? `, ${speed} turns/min` : ''}`;

/** The machines that there are, with their tools. */
export function machines({ files, rules, machine }: Pick<Arguments, 'files' | 'rules' | 'machine'>): Answer {
  const all = machine === undefined ? machinesFor(files[0] ?? '', rules) : [machineAsked(machine, files[0] ?? '', rules)];
  return {
    code: 0,
    output: { command: 'machines', machines: all },
    lines: all.flatMap(({ id, name, language, area, unit, stock, tools }) => [
      `${id}: ${name} (${language}, ${unit}), ${area.width} × ${area.height}${area.depth ? ` × ${area.depth}` : ''} mm, stock ${stock.thickness} mm`,
      ...tools.map(toolLine),
    ]),
  };
}

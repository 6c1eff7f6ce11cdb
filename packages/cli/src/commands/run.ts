import { writeFileSync } from 'node:fs';
import { BENCH } from '@inkwell-twin/standins';
import { Failure } from '@inkwell-twin/core';
import { readBytes } from '../files';
import type { Answer } from '../output';
import { type Arguments, need } from './shared';

/** Has a machine of the bench run a file, and tells what it says. With --out, what it did as an SVG drawing. */
export function runOnBench({ files, machine, out }: Pick<Arguments, 'files' | 'machine' | 'out'>): Answer {
  need(files, 1, 'run FILE --machine M [--out PICTURE.svg]');
  const known = Object.keys(BENCH).join(', ');
  if (!machine) throw new Failure('usage', `Name a machine of the bench: --machine ${known}.`);
  const run = Object.hasOwn(BENCH, machine) ? BENCH[machine] : undefined;
  if (!run) throw new Failure('machine-unknown', `There is no machine “${machine}” on the bench. It has ${known}.`);
  const report = run(readBytes(files[0]!));
  if (out) writeFileSync(out, report.picture);
  const { alarms, runs, moves, worked, travelled, seconds, tools } = report;
  return {
    code: runs ? 0 : 1,
    output: { command: 'run', ...report },
    lines: [
      `${files[0]!}: ${runs ? 'runs to its end' : 'stops'} on the ${machine}`,
      `  ${moves} moves, ${worked.toFixed(1)} mm worked, ${travelled.toFixed(1)} mm in between, ${seconds.toFixed(1)} s, tools ${tools.join(', ') || 'none'}`,
      `  SHA-256 ${report.sha256}`,
      ...alarms.map(({ at, words }) => `  at ${at}: ${words}`),
    ],
  };
}

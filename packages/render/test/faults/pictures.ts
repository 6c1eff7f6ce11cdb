import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import type { ByteChange, ByteChanges } from '../../../core/test/faults/dice';
import { inFolder } from './qpdf';

// Tests and benchmarks are run from the root of the project.
const PROGRAM = resolve('packages/render/test/mutate.py');

/** What another program makes of a picture. @param seed of the place, about the middle where there is none */
export function mutated(op: string, bytes: Uint8Array, extension: string, seed?: number): Uint8Array {
  return inFolder((at) => {
    const [from, to] = [at(`in.${extension}`), at(`out.${extension}`)];
    writeFileSync(from, bytes);
    const asked = [PROGRAM, op, from, to, ...(seed === undefined ? [] : [String(seed)])];
    const run = spawnSync('/usr/bin/python3', asked, { encoding: 'utf8' });
    if (run.status !== 0) throw new Error(run.stderr);
    return readFileSync(to);
  });
}

const by =
  (op: string, extension: string): ByteChange =>
  (bytes, dice) =>
    mutated(op, bytes, extension, dice.below(1e6));
const cut: ByteChange = (bytes, dice) => bytes.subarray(0, Math.floor(bytes.length * (0.2 + 0.6 * dice.next())));

const FAULTS = ['line', 'dot', 'recolour', 'erase', 'shift', 'crop', 'resample', 'brighter', 'soften', 'flip', 'turn'];
const table = (names: readonly string[], extension: string): Record<string, ByteChange> =>
  Object.fromEntries(names.map((name) => [name, by(name, extension)]));

/** What can happen to pictures, by a library that shares nothing with ours. */
export const PICTURE_CHANGES: Readonly<Record<string, ByteChanges>> = {
  png: {
    faults: { ...table([...FAULTS, 'flatten'], 'png'), 'cut short': cut },
    harmless: table(['again', 'plain'], 'png'),
  },
  tiff: {
    faults: { ...table(FAULTS, 'tif'), 'cut short': cut },
    harmless: table(['again'], 'tif'),
  },
  jpeg: {
    faults: { ...table([...FAULTS.filter((name) => name !== 'dot'), 'quality'], 'jpg'), 'cut short': cut },
    harmless: {},
  },
};

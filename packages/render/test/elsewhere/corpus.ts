import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isLong } from '../../../core/test/depth';

/** One seed in the usual run; in the long one another each day, printed. */
export const seeds = (): number[] => {
  if (!isLong) return [7];
  const today = Math.floor(Date.now() / 86_400_000);
  console.log(`seeds ${today * 10} to ${today * 10 + 4}`);
  return Array.from({ length: 5 }, (_, i) => today * 10 + i);
};

/** Files that a script of another language and other libraries writes. */
export interface Corpus {
  readonly names: readonly string[];
  readonly bytes: (name: string) => Buffer;
  readonly folder: string;
  readonly close: () => void;
}

/** Has a script of this folder write its files. @param script for instance "pictures.py" */
export function corpusOf(script: string, seed: number): Corpus {
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-corpus-'));
  const { status, stderr } = spawnSync('/usr/bin/python3', [join(__dirname, script), String(seed)], {
    cwd: folder,
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(stderr);
  return {
    names: readdirSync(folder).sort(),
    bytes: (name) => readFileSync(join(folder, name)),
    folder,
    close: () => rmSync(folder, { recursive: true }),
  };
}

import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const PYTHON = '/usr/bin/python3';

/**
 * Runs a script in a folder of its own.
 * @param file becomes the file of that name there before
 * @returns what it printed, and that file as it is afterwards
 */
export function python(script: string, file?: Uint8Array, name = 'a.dxf'): { out: string; written: Uint8Array } {
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-python-'));
  const path = join(folder, name);
  try {
    if (file) writeFileSync(path, file);
    const { stdout, stderr, status } = spawnSync(PYTHON, ['-c', script], { cwd: folder, encoding: 'utf8' });
    if (status !== 0) throw new Error(stderr);
    return { out: stdout, written: existsSync(path) ? readFileSync(path) : new Uint8Array() };
  } finally {
    rmSync(folder, { recursive: true });
  }
}

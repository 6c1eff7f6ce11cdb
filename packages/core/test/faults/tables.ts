import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const SCRIPT = 'packages/core/test/faults/tables.py';

/** A copy of a table that was spoiled, or re-written without harm. */
export interface Changed {
  readonly target: string;
  /** What was done. */
  readonly name: string;
  readonly harmless: boolean;
  readonly bytes: Uint8Array;
}

/**
 * Copies of one table, changed by libraries that share nothing with ours.
 * @param copies true ones, by target
 * @param each how often each fault is made, from the seed
 */
export function changedTables(copies: Readonly<Record<string, Uint8Array>>, seed: number, each: number): Changed[] {
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-tables-'));
  try {
    for (const [target, bytes] of Object.entries(copies)) writeFileSync(join(folder, `a.${target}`), bytes);
    const script = join(process.cwd(), SCRIPT);
    const { stdout, stderr, status } = spawnSync('/usr/bin/python3', [script, String(seed), String(each)], {
      cwd: folder,
      encoding: 'utf8',
      maxBuffer: 1 << 26,
    });
    if (status !== 0) throw new Error(stderr);
    return (JSON.parse(stdout) as string[]).map((file) => {
      const [, kind, name, target] = /^(fault|same)-(.*)-\d+\.([a-z]+)$/.exec(file)!;
      return { target: target!, name: name!, harmless: kind === 'same', bytes: readFileSync(join(folder, file)) };
    });
  } finally {
    rmSync(folder, { recursive: true });
  }
}

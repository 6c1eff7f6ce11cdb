import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isLong } from '../depth';

/** A copy that was spoiled, or re-written without harm. */
export interface Changed {
  readonly extension: string;
  /** What was done. */
  readonly name: string;
  readonly harmless: boolean;
  readonly bytes: Uint8Array;
}

/**
 * In the usual run each change, or each so many-th, is tried on so many of the formats that it is made in, by turns; in the long
 * one all are tried on all of them.
 */
function byTurns(all: readonly Changed[], count: number, every: number): Changed[] {
  const names = new Map<string, Changed[]>();
  for (const one of all) names.set(one.name, [...(names.get(one.name) ?? []), one]);
  const some = [...names.values()].filter((_, i) => i % every === 0);
  return some.flatMap((same, turn) => {
    const formats = [...new Set(same.map(({ extension }) => extension))];
    const chosen = new Set(Array.from({ length: count }, (_, k) => formats[(turn + k) % formats.length]));
    return same.filter(({ extension }) => chosen.has(extension));
  });
}

/**
 * Copies changed by a script in Python, by libraries that share nothing with ours.
 * @param script from the root of the project; takes a seed and how often, reads a.ext, prints the names of what it wrote
 * @param copies true ones, by extension
 * @param each how often each fault is made, from the seed
 * @param formats on how many formats each is tried in the usual run
 * @param every which share of them is tried in the usual run: each third, say
 */
export function changedCopies(
  script: string,
  copies: Readonly<Record<string, Uint8Array>>,
  seed: number,
  each: number,
  formats = 1,
  every = 1,
): Changed[] {
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-faults-'));
  try {
    for (const [extension, bytes] of Object.entries(copies)) writeFileSync(join(folder, `a.${extension}`), bytes);
    const { stdout, stderr, status } = spawnSync(
      '/usr/bin/python3',
      ['-B', join(process.cwd(), script), String(seed), String(each)],
      {
        cwd: folder,
        env: { ...process.env, PYTHONPATH: join(process.cwd(), 'packages/core/test/faults') },
        encoding: 'utf8',
        maxBuffer: 1 << 26,
      },
    );
    if (status !== 0) throw new Error(stderr);
    const all = (JSON.parse(stdout.trim().split('\n').at(-1)!) as string[]).map((file): Changed => {
      const [, kind, name, extension] = /^(fault|same)-(.*)-\d+\.([a-z0-9]+)$/.exec(file)!;
      return { extension: extension!, name: name!, harmless: kind === 'same', bytes: readFileSync(join(folder, file)) };
    });
    return isLong ? all : byTurns(all, formats, every);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

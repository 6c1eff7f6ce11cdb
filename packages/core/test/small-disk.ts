import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A disk of a few bytes of its own. */
export interface SmallDisk {
  readonly folder: string;
  readonly remove: () => void;
}

/** @param size as `mount` takes it. @throws Error where this machine lets nobody make one */
export function smallDisk(size: string): SmallDisk {
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-small-'));
  execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${size},mode=755`, 'tmpfs', folder]);
  return {
    folder,
    remove: () => {
      // What still stands open there is closed by and by.
      spawnSync('umount', ['-l', folder]);
      rmdirSync(folder);
    },
  };
}

/** Only the system's own user makes disks: who is another one is told that these tests were left out. */
export const whereDisksAreMade = process.getuid?.() === 0 ? { it, describe } : { it: it.skip, describe: describe.skip };

import { randomUUID } from 'node:crypto';
import { mkdirSync, openSync, closeSync, fsyncSync, renameSync, rmSync, writeSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';

/** How temporary files beside the real ones are named; a watcher passes over them and a start clears them away. */
export const TEMPORARY = /^\.inkwell-.*\.part$/;

/** Writes a file whole or not at all: to a temporary name in the same folder, flushed, then renamed. */
export function writeWhole(path: string, bytes: Uint8Array): void {
  mkdirSync(dirname(path), { recursive: true });
  const temporary = join(dirname(path), `.inkwell-${basename(path).slice(0, 40)}-${randomUUID()}.part`);
  try {
    const file = openSync(temporary, 'w');
    try {
      for (let at = 0; at < bytes.length;) at += writeSync(file, bytes, at);
      fsyncSync(file);
    } finally {
      closeSync(file);
    }
    renameSync(temporary, path);
  } catch (error) {
    rmSync(temporary, { force: true });
    throw error;
  }
}

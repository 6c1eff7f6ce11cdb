import { randomUUID } from 'node:crypto';
import { closeSync, fsyncSync, mkdirSync, openSync, renameSync, rmSync, writeSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';

/** How temporary files beside the real ones are named; a watcher passes over them and a start clears them away. */
export const TEMPORARY = /^\.inkwell-.*\.part$/;

/**
 * Writes a file whole or not at all: to a temporary name in the same folder, flushed, then renamed, and the folder flushed.
 * @param beforeRename runs when all bytes are safe and the old file still stands; what it throws leaves that as it is
 */
export function writeWhole(path: string, bytes: Uint8Array, beforeRename: () => void = () => undefined): void {
  const folder = dirname(path);
  mkdirSync(folder, { recursive: true });
  const temporary = join(folder, `.inkwell-${basename(path).slice(0, 40)}-${randomUUID()}.part`);
  try {
    const file = openSync(temporary, 'wx');
    try {
      for (let at = 0; at < bytes.length;) at += writeSync(file, bytes, at);
      fsyncSync(file);
    } finally {
      closeSync(file);
    }
    beforeRename();
    renameSync(temporary, path);
  } catch (error) {
    rmSync(temporary, { force: true });
    throw error;
  }
  flushFolder(folder);
}

/** A rename is safe against a power cut only once its folder is flushed; where folders can't be, it is as safe as it gets. */
function flushFolder(folder: string): void {
  try {
    const file = openSync(folder, 'r');
    try {
      fsyncSync(file);
    } finally {
      closeSync(file);
    }
  } catch {
    /* some file systems refuse to flush a folder */
  }
}

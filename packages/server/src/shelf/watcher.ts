import { type FSWatcher, lstatSync, readdirSync, watch } from 'node:fs';
import { basename, join } from 'node:path';
import { DEEPEST } from '@inkwell-twin/core';
import { TEMPORARY } from '@inkwell-twin/render';
import type { Shelf } from './shelf';

/** Milliseconds without another change after which something has come to rest. */
const QUIET = 150;

/**
 * Tells of everything on the shelf that comes, changes or goes, a moment after it came to rest: files, and what stands in
 * their place. One watch a folder, not one a file (a shelf of thirty thousand files is watched at once, in a few megabytes);
 * links are not followed.
 */
export class ShelfWatcher {
  private readonly folders = new Map<string, FSWatcher>();
  private readonly waiting = new Map<string, NodeJS.Timeout>();
  private readonly root: FSWatcher;

  constructor(
    private readonly shelf: Shelf,
    private readonly changed: (folder: string, file: string) => void,
  ) {
    this.root = watch(shelf.root, (_event, name) => {
      if (name === null) return;
      this.lookAtFolder(name, true);
      this.notice('', name);
    });
    this.root.on('error', () => undefined);
    for (const name of readdirSync(shelf.root)) this.lookAtFolder(name, false);
  }

  /** Begins to watch a folder and those in it, or ends when it is gone. What stands in one that came with its files is news. */
  private lookAtFolder(folder: string, isNews: boolean): void {
    if (folder.split('/').length > DEEPEST || basename(folder).startsWith('.')) return;
    const path = join(this.shelf.root, folder);
    let isFolder = false;
    try {
      isFolder = lstatSync(path).isDirectory();
    } catch {
      /* it is gone */
    }
    const known = this.folders.get(folder);
    if (known && isFolder && !isNews) return;
    if (known)
      for (const [name, one] of this.folders)
        if (name === folder || name.startsWith(`${folder}/`)) {
          one.close();
          this.folders.delete(name);
        }
    if (!isFolder) return;
    try {
      const watcher = watch(path, (_event, file) => {
        if (file === null) return;
        this.lookAtFolder(`${folder}/${file}`, true);
        this.notice(folder, file);
      });
      // A folder that is taken away ends its watch; the one that it was in tells of it.
      watcher.on('error', () => undefined);
      this.folders.set(folder, watcher);
      for (const file of readdirSync(path)) {
        this.lookAtFolder(`${folder}/${file}`, isNews);
        if (isNews) this.notice(folder, file);
      }
    } catch {
      /* gone between two looks */
    }
  }

  private notice(folder: string, file: string): void {
    if (TEMPORARY.test(file)) return;
    const key = join(folder, file);
    clearTimeout(this.waiting.get(key));
    this.waiting.set(
      key,
      setTimeout(() => {
        this.waiting.delete(key);
        this.changed(folder, file);
      }, QUIET),
    );
  }

  close(): void {
    for (const timer of this.waiting.values()) clearTimeout(timer);
    for (const watcher of [this.root, ...this.folders.values()]) watcher.close();
  }
}

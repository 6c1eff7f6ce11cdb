import { type FSWatcher, watch } from 'chokidar';
import { TEMPORARY } from '@inkwell-twin/render';
import type { Shelf } from './shelf';

const QUIET = 150;

/** Tells of every file on the shelf that comes, changes or goes, a moment after it came to rest. */
export class ShelfWatcher {
  private readonly watcher: FSWatcher;
  private readonly waiting = new Map<string, NodeJS.Timeout>();

  constructor(shelf: Shelf, changed: (folder: string, file: string) => void) {
    this.watcher = watch(shelf.root, {
      ignoreInitial: true,
      depth: 1,
      ignored: (path) => TEMPORARY.test(path.slice(path.lastIndexOf('/') + 1)),
    });
    const notice = (path: string) => {
      const found = shelf.locate(path);
      if (!found) return;
      clearTimeout(this.waiting.get(path));
      this.waiting.set(
        path,
        setTimeout(() => {
          this.waiting.delete(path);
          changed(found.folder, found.file);
        }, QUIET),
      );
    };
    this.watcher
      .on('add', notice)
      .on('change', notice)
      .on('unlink', notice)
      .on('error', () => undefined);
  }

  ready(): Promise<void> {
    return new Promise((done) => void this.watcher.once('ready', () => done()));
  }

  async close(): Promise<void> {
    for (const timer of this.waiting.values()) clearTimeout(timer);
    await this.watcher.close();
  }
}

import { existsSync, mkdirSync, readFileSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join, relative, sep } from 'node:path';
import { Failure, NATIVE_EXTENSION, freeName } from '@inkwell-twin/core';
import { TEMPORARY, writeWhole } from '@inkwell-twin/render';
import { sha256 } from '../blobs/blobs';

/** Largest file that a check reads from the shelf, bytes. */
const LIMIT = 128 * 1024 * 1024;

/** The folder on disk where masters and copies lie for other programs and people. One folder a master. */
export class Shelf {
  constructor(readonly root: string) {
    mkdirSync(root, { recursive: true });
    this.clearTemporaries(root);
  }

  /** Part files of a start that was cut short. */
  private clearTemporaries(folder: string): void {
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      if (entry.isDirectory()) this.clearTemporaries(join(folder, entry.name));
      else if (TEMPORARY.test(entry.name)) rmSync(join(folder, entry.name), { force: true });
    }
  }

  /** The path of a file; names come from our own naming, and one that leads elsewhere is refused all the same. */
  path(folder: string, file: string): string {
    if (/[\\/]|^\.{1,2}$/.test(folder) || /[\\/]|^\.{1,2}$/.test(file) || !folder || !file)
      throw new Failure('name-unsafe', `“${folder}/${file}” is not a name for the shelf.`);
    return join(this.root, folder, file);
  }

  /** Folder and file of a path below the shelf. */
  locate(path: string): { folder: string; file: string } | undefined {
    const parts = relative(this.root, path).split(sep);
    return parts.length === 2 && parts[0] !== '..' ? { folder: parts[0]!, file: parts[1]! } : undefined;
  }

  freeFolder(wanted: string, taken: readonly string[]): string {
    return freeName(wanted, [...taken, ...readdirSync(this.root)]);
  }

  files(folder: string): string[] {
    const path = join(this.root, folder);
    return existsSync(path) ? readdirSync(path) : [];
  }

  /** The bytes of a file, or null where there is none. @throws Failure `file-too-large` */
  read(folder: string, file: string): Buffer | null {
    const path = this.path(folder, file);
    if (!existsSync(path) || !statSync(path).isFile()) return null;
    if (statSync(path).size > LIMIT)
      throw new Failure('file-too-large', `${file} is larger than the 128 MB that a check reads.`, { file });
    return readFileSync(path);
  }

  write(folder: string, file: string, bytes: Uint8Array): void {
    writeWhole(this.path(folder, file), bytes);
  }

  /** Takes a file away if its bytes are the ones we wrote; otherwise it is someone's work and is set aside under another name. */
  clear(folder: string, file: string, written: string): string | null {
    const bytes = this.read(folder, file);
    if (!bytes) return null;
    if (sha256(bytes) === written) {
      rmSync(this.path(folder, file));
      return null;
    }
    const dot = file.lastIndexOf('.');
    const aside = freeName(`${file.slice(0, dot)}_set_aside${file.slice(dot)}`, this.files(folder));
    renameSync(this.path(folder, file), this.path(folder, aside));
    return aside;
  }

  masterFile = (folder: string): string => `${folder}.${NATIVE_EXTENSION}`;
}

import {
  closeSync,
  constants,
  existsSync,
  fstatSync,
  linkSync,
  mkdirSync,
  openSync,
  readFileSync,
  readdirSync,
  readlinkSync,
  realpathSync,
  renameSync,
  rmSync,
  type BigIntStats,
} from 'node:fs';
import { join, relative, sep } from 'node:path';
import { Failure, NATIVE_EXTENSION, freeName } from '@inkwell-twin/core';
import { TEMPORARY, writeWhole } from '@inkwell-twin/render';
import { sha256 } from '../blobs/blobs';

/** Largest file that a check reads from the shelf, bytes. */
const LIMIT = 128 * 1024 * 1024;
const { O_DIRECTORY, O_NOFOLLOW, O_NONBLOCK, O_RDONLY } = constants;

/** What stands in a place of the shelf: a file with its bytes, nothing, or something else, in words. */
export type Standing =
  | { readonly kind: 'file'; readonly bytes: Buffer; readonly stamp: string }
  | { readonly kind: 'nothing' }
  | { readonly kind: 'other'; readonly words: string };

/** Tells two states of a file apart without reading it: size, time in nanoseconds, and which file it is. */
const stampOf = ({ size, mtimeNs, ino }: BigIntStats): string => `${size} ${mtimeNs} ${ino}`;

/**
 * The folder on disk where masters and copies lie for other programs and people. One folder a master. Links are never
 * followed: a folder is opened as what it is, files are reached through it, and what was opened is looked at again.
 */
export class Shelf {
  private readonly real: string;

  constructor(readonly root: string) {
    mkdirSync(root, { recursive: true });
    this.real = realpathSync(root);
  }

  /** Takes away part files of a start that was cut short. */
  clearTemporaries(): void {
    for (const folder of [this.root, ...this.folders().map((name) => join(this.root, name))])
      for (const name of readdirSync(folder)) if (TEMPORARY.test(name)) rmSync(join(folder, name), { force: true });
  }

  private folders(): string[] {
    return readdirSync(this.root, { withFileTypes: true }).flatMap((entry) => (entry.isDirectory() ? [entry.name] : []));
  }

  /** The path of a file; names come from our own naming, and one that leads elsewhere is refused all the same. */
  path(folder: string, file: string): string {
    if (/[\\/\0]|^\.{1,2}$/.test(folder) || /[\\/\0]|^\.{1,2}$/.test(file) || !folder || !file)
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

  /**
   * Opens a master's folder without following links and hands over a path that stays in it, whatever is done to the folder's
   * name meanwhile.
   * @param make makes the folder where it is missing
   * @returns what `work` returns, or `otherwise` where there is no such folder
   * @throws Failure `link-refused` where a link stands in its place
   */
  private within<T>(folder: string, make: boolean, otherwise: T, work: (base: string) => T): T {
    const path = join(this.root, this.path(folder, 'x') && folder);
    if (make) mkdirSync(path, { recursive: true });
    let opened: number;
    try {
      opened = openSync(path, O_RDONLY | O_DIRECTORY | O_NOFOLLOW);
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code === 'ENOENT') return otherwise;
      if (code === 'ELOOP' || code === 'ENOTDIR')
        throw new Failure(
          'link-refused',
          `On the shelf, “${folder}” is ${code === 'ELOOP' ? 'a link' : 'no folder'}. Links are not followed; put the folder itself there.`,
          { file: folder },
        );
      throw error;
    }
    try {
      const base = `/proc/self/fd/${opened}`;
      if (readlinkSync(base) !== join(this.real, folder))
        throw new Failure('link-refused', `On the shelf, “${folder}” leads elsewhere. Links are not followed.`, { file: folder });
      return work(base);
    } finally {
      closeSync(opened);
    }
  }

  files(folder: string): string[] {
    return this.within(folder, false, [] as string[], (base) => readdirSync(base));
  }

  /** What stands in a place, looked at after it was opened. @throws Failure `file-too-large` */
  look(folder: string, file: string): Standing {
    this.path(folder, file);
    return this.within<Standing>(folder, false, { kind: 'nothing' }, (base) => this.lookIn(base, file));
  }

  private lookIn(base: string, file: string): Standing {
    let opened: number;
    try {
      // Not to block: opening a pipe would wait for someone who writes into it.
      opened = openSync(join(base, file), O_RDONLY | O_NOFOLLOW | O_NONBLOCK);
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code === 'ENOENT') return { kind: 'nothing' };
      if (code === 'ELOOP') return { kind: 'other', words: 'a link stands in its place; links are not followed' };
      if (code === 'ENXIO') return { kind: 'other', words: 'a socket or a device stands in its place' };
      if (code === 'EACCES') return { kind: 'other', words: 'this program may not read the file' };
      throw error;
    }
    try {
      const stat = fstatSync(opened, { bigint: true });
      if (!stat.isFile()) return { kind: 'other', words: `a ${kindOf(stat)} stands in its place` };
      if (stat.size > LIMIT)
        throw new Failure('file-too-large', `${file} is larger than the 128 MB that a check reads.`, { file });
      return { kind: 'file', bytes: readFileSync(opened), stamp: stampOf(stat) };
    } finally {
      closeSync(opened);
    }
  }

  /** The stamp of what stands in a place, without reading it; empty where there is nothing. */
  stamp(folder: string, file: string): string {
    return this.within(folder, false, '', (base) => {
      try {
        const opened = openSync(join(base, file), O_RDONLY | O_NOFOLLOW | O_NONBLOCK);
        try {
          return stampOf(fstatSync(opened, { bigint: true }));
        } finally {
          closeSync(opened);
        }
      } catch {
        return existsSync(join(base, file)) ? 'not a file' : '';
      }
    });
  }

  /** The stamps of several files together; that of one file is its own. */
  stamps = (folder: string, files: readonly string[]): string => files.map((file) => this.stamp(folder, file)).join('|');

  /** The bytes of a file, or null where there is none or something else. @throws Failure `file-too-large` */
  read(folder: string, file: string): Buffer | null {
    const standing = this.look(folder, file);
    return standing.kind === 'file' ? standing.bytes : null;
  }

  /**
   * Puts a file in its place, whole. Until the new one is there in full and flushed, the old one stands; one that is not ours
   * is someone's work and gets another name first, in the same moment.
   * @param ours whether the file that stands there may be written over, by its SHA-256
   * @returns the name that someone's file got, or null
   */
  put(folder: string, file: string, bytes: Uint8Array, ours: (sha: string) => boolean): string | null {
    this.path(folder, file);
    return this.within<string | null>(folder, true, null, (base) => {
      let aside: string | null = null;
      writeWhole(join(base, file), bytes, () => {
        const standing = this.lookIn(base, file);
        if (standing.kind === 'nothing' || (standing.kind === 'file' && ours(sha256(standing.bytes)))) return;
        aside = this.setAside(base, file);
      });
      return aside;
    });
  }

  /** Gives what stands there another name. A second name first, where the file system has that, so that it is never without one. */
  private setAside(base: string, file: string): string {
    const dot = file.lastIndexOf('.');
    const aside = freeName(`${file.slice(0, dot)}_set_aside${file.slice(dot)}`, readdirSync(base));
    try {
      linkSync(join(base, file), join(base, aside));
    } catch {
      renameSync(join(base, file), join(base, aside));
    }
    return aside;
  }

  /** Takes a file away if its bytes are the ones we wrote; otherwise it is someone's work and is set aside under another name. */
  clear(folder: string, file: string, written: string): string | null {
    this.path(folder, file);
    return this.within<string | null>(folder, false, null, (base) => {
      const standing = this.lookIn(base, file);
      if (standing.kind === 'nothing') return null;
      if (standing.kind === 'file' && sha256(standing.bytes) === written) {
        rmSync(join(base, file));
        return null;
      }
      const aside = this.setAside(base, file);
      if (standing.kind === 'file') rmSync(join(base, file), { force: true });
      return aside;
    });
  }

  masterFile = (folder: string): string => `${folder}.${NATIVE_EXTENSION}`;
}

function kindOf(stat: BigIntStats): string {
  if (stat.isDirectory()) return 'folder';
  if (stat.isFIFO()) return 'pipe';
  if (stat.isSocket()) return 'socket';
  return 'device';
}

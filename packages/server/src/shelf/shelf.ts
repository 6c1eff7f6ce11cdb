import {
  closeSync,
  constants,
  existsSync,
  fstatSync,
  linkSync,
  lstatSync,
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
import { basename, dirname, join, relative, sep } from 'node:path';
import { DEEPEST, Failure, NATIVE_EXTENSION, freeName } from '@inkwell-twin/core';
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
    for (const folder of ['', ...this.folders()])
      for (const name of readdirSync(join(this.root, folder)))
        if (TEMPORARY.test(name)) rmSync(join(this.root, folder, name), { force: true });
  }

  /** All folders within folders, by their paths from the shelf on; links are no folders. */
  folders(within = '', depth = 1): string[] {
    return readdirSync(join(this.root, within), { withFileTypes: true }).flatMap((entry) => {
      if (!entry.isDirectory() || entry.name.startsWith('.')) return [];
      const path = within ? `${within}/${entry.name}` : entry.name;
      return [path, ...(depth < DEEPEST ? this.folders(path, depth + 1) : [])];
    });
  }

  /** The path of a file; names come from our own naming, and one that leads elsewhere is refused all the same. */
  path(folder: string, file: string): string {
    if ([...folder.split('/'), file].some((part) => !part || /[\\/\0]|^\.{1,2}$/.test(part)))
      throw new Failure('name-unsafe', `“${folder}/${file}” is not a name for the shelf.`);
    return join(this.root, folder, file);
  }

  /** Folder and file of a path below the shelf. */
  locate(path: string): { folder: string; file: string } | undefined {
    const parts = relative(this.root, path).split(sep);
    return parts.length >= 2 && parts[0] !== '..' ? { folder: parts.slice(0, -1).join('/'), file: parts.at(-1)! } : undefined;
  }

  /** A path for a new folder in a place. @param taken paths that are spoken for */
  freeFolder(wanted: string, taken: readonly string[], place = ''): string {
    const within = place ? `${place}/` : '';
    const spoken = taken.flatMap((path) =>
      path.toLowerCase().startsWith(within.toLowerCase()) ? [path.slice(within.length)] : [],
    );
    return within + freeName(wanted, [...spoken, ...this.namesIn(place)]);
  }

  private namesIn(place: string): string[] {
    try {
      return readdirSync(join(this.root, place));
    } catch {
      return [];
    }
  }

  /**
   * What stands under a name, whatever its letters' case, as on systems where that makes no difference.
   * @returns its name as it is written there, or null
   */
  namesake(place: string, name: string): string | null {
    return this.namesIn(place).find((one) => one.toLowerCase() === name.toLowerCase()) ?? null;
  }

  /** Size in bytes and time of what stands at a path below the shelf; a folder's is that of all that is directly in it. */
  sizeAndTime(path: string): { folder: boolean; size: number; time: string } | null {
    const stat = lstatSync(join(this.root, path), { throwIfNoEntry: false });
    if (!stat) return null;
    if (!stat.isDirectory()) return { folder: false, size: stat.size, time: stat.mtime.toISOString() };
    const inside = this.namesIn(path).map((name) => lstatSync(join(this.root, path, name), { throwIfNoEntry: false }));
    return {
      folder: true,
      size: inside.reduce((sum, one) => sum + (one?.isFile() ? one.size : 0), 0),
      time: stat.mtime.toISOString(),
    };
  }

  /** Makes the folders that lead to a place, one by one, none of them a link. */
  private makeFolders(path: string): void {
    let made = this.root;
    for (const part of path.split('/')) {
      made = join(made, part);
      const stat = lstatSync(made, { throwIfNoEntry: false });
      if (!stat) mkdirSync(made);
      else if (!stat.isDirectory())
        throw new Failure(
          'link-refused',
          `On the shelf, “${relative(this.root, made)}” is ${stat.isSymbolicLink() ? 'a link' : 'no folder'}. Links are not followed; put the folder itself there.`,
          { file: part },
        );
    }
  }

  /**
   * Moves a master's file, and with `follow` all that lies beside it. May be asked again for a move that was cut short: what is
   * done is not done twice, and nothing is ever written over.
   */
  move(source: string, target: string, follow: boolean): void {
    this.path(source, 'x');
    this.path(target, 'x');
    const at = (path: string) => join(this.root, path);
    const isThere = (path: string) => lstatSync(at(path), { throwIfNoEntry: false }) !== undefined;
    const sameButCase = source.toLowerCase() === target.toLowerCase();
    if (follow) {
      if (isThere(source) && (!isThere(target) || sameButCase)) {
        if (target.includes('/')) this.makeFolders(dirname(target));
        renameSync(at(source), at(target));
      }
    } else this.makeFolders(target);
    for (const file of [this.masterFile, this.sidecarFile]) {
      const [old, now] = [join(follow ? target : source, file(source)), join(target, file(target))];
      if (old !== now && isThere(old) && !isThere(now)) renameSync(at(old), at(now));
    }
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
    if (make) this.makeFolders(folder);
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

  /** Takes away a folder that has nothing in it any more. */
  clearEmptyFolder(path: string): void {
    this.path(path, 'x');
    if (!this.namesIn(path).length) rmSync(join(this.root, path), { recursive: true, force: true });
  }

  masterFile = (folder: string): string => `${basename(folder)}.${NATIVE_EXTENSION}`;
  /** The file beside a master that says its description to other programs. */
  sidecarFile = (folder: string): string => `${basename(folder)}.xmp`;
}

function kindOf(stat: BigIntStats): string {
  if (stat.isDirectory()) return 'folder';
  if (stat.isFIFO()) return 'pipe';
  if (stat.isSocket()) return 'socket';
  return 'device';
}

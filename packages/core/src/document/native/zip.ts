import { type Zippable, unzipSync, zipSync } from 'fflate';
import { Failure } from '../../base/failure/failure';

const ENTRIES = 5_000;
const TOTAL = 512 * 1024 * 1024;
const RATIO = 300;
const LARGE = 24 * 1024 * 1024;

/** A file that its owner may change and everybody may read, as Unix says it; what unpacks a package gives its entries these rights. */
const UNIX = 3;
const RIGHTS = 0o100644 * 0x10000;

/** The only date in a package: the first that the zip format can state (APPNOTE 4.4.6), so that equal content gives equal bytes. */
const DATE = new Date(1980, 0, 1);

interface Sizes {
  readonly size: number;
  readonly originalSize: number;
}
/** Whether an entry unpacks to so much more than it is that it may be meant to do harm. */
const isSuspect = ({ size, originalSize }: Sizes): boolean =>
  originalSize > 1_000_000 && originalSize > RATIO * Math.max(1, size);

/**
 * Zip bytes, entries in the order given; names in `stored` are not compressed, nor is what would pack to so little that it could
 * not be told from harm when it is opened.
 */
export function packEntries(entries: ReadonlyMap<string, Uint8Array>, stored: ReadonlySet<string>): Uint8Array {
  const tree: Zippable = {};
  // A large part is mostly the same again and again: packing it harder takes long and gains little.
  const level = (name: string, { length }: Uint8Array) => (stored.has(name) ? 0 : length > LARGE ? 2 : 6);
  for (const [name, bytes] of entries) tree[name] = [bytes, { level: level(name, bytes), mtime: DATE, os: UNIX, attrs: RIGHTS }];
  const packed = zipSync(tree);
  const suspect = new Set<string>();
  unzipSync(packed, {
    filter: (entry) => {
      if (isSuspect(entry)) suspect.add(entry.name);
      return false;
    },
  });
  return suspect.size ? packEntries(entries, new Set([...stored, ...suspect])) : packed;
}

/** The name of the first entry, from the local header at the start of the file (APPNOTE 4.3.7). */
export function firstEntryName(bytes: Uint8Array): string | undefined {
  if (bytes.length < 30 || bytes[0] !== 0x50 || bytes[1] !== 0x4b || bytes[2] !== 3 || bytes[3] !== 4) return undefined;
  const length = bytes[26]! | (bytes[27]! << 8);
  return new TextDecoder().decode(bytes.subarray(30, 30 + length));
}

/** How far the entries of a damaged package are looked for, bytes. */
const LOOKED = 1 << 20;
/** The names that entries say before themselves (APPNOTE 4.3.7). */
function localNames(bytes: Uint8Array): string[] {
  const names: string[] = [];
  for (let at = 0; at >= 0 && at < LOOKED && names.length < ENTRIES; at = bytes.indexOf(0x50, at + 1)) {
    const name = firstEntryName(bytes.subarray(at, at + 300));
    if (name) names.push(name);
  }
  return names;
}

/** Names of the entries of a zip package, as far as it can be read; none where it is none. */
export function entryNames(bytes: Uint8Array): string[] {
  if (firstEntryName(bytes) === undefined) return [];
  const names: string[] = [];
  try {
    unzipSync(bytes, {
      filter: ({ name }) => {
        if (names.length < ENTRIES) names.push(name);
        return false;
      },
    });
  } catch {
    // A package that was cut off has lost its list: its entries name themselves.
    return localNames(bytes);
  }
  return names;
}

/**
 * Opens a zip package within limits on count, size and compression, and refuses names that lead out of it.
 * @throws Failure `package-damaged`, `package-unsafe`, `package-too-large`
 */
export function unpackEntries(bytes: Uint8Array): Map<string, Uint8Array> {
  let count = 0;
  let total = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: ({ name, size, originalSize }) => {
        if (/(^|[\\/])\.\.([\\/]|$)|^[\\/]|^[A-Za-z]:|\0|\\/.test(name))
          throw new Failure(
            'package-unsafe',
            `The package has an entry named “${name.slice(0, 80)}”, which leads out of it. It is not opened.`,
          );
        count++;
        total += originalSize;
        if (count > ENTRIES || total > TOTAL || isSuspect({ size, originalSize }))
          throw new Failure(
            'package-too-large',
            `The package unpacks to more than is sensible (at “${name.slice(0, 80)}”). It is not opened.`,
          );
        return !name.endsWith('/');
      },
    });
  } catch (error) {
    if (error instanceof Failure) throw error;
    throw new Failure(
      'package-damaged',
      `The package can't be unpacked: ${error instanceof Error ? error.message : 'it is damaged'}.`,
    );
  }
  return new Map(Object.entries(files));
}

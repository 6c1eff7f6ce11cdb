import { Gunzip } from 'fflate';
import { Failure } from '../base/failure/failure';
import { type FindBeside, packedFiles } from './beside';

/** A file that comes in, out of what it was packed in. */
export interface Unpacked {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** What was packed with it, by the names that it calls them. */
  readonly beside?: FindBeside;
}

/** How many times its size a packed file can become (RFC 1951, 3.2.5): one that states more was cut off or changed. */
const DENSEST = 1032;
/** Bytes that one packed file may become. */
const MOST = 256 * 1024 * 1024;

/** A file that was packed by itself (RFC 1952), for instance a drawing as `.svgz`. @throws Failure `package-damaged`, `package-too-large` */
function gunzipped(bytes: Uint8Array): Uint8Array {
  const tooLarge = () => new Failure('package-too-large', 'The packed file becomes larger than 256 MB. It is not opened.');
  // Its last four bytes say its length (RFC 1952, 2.3.1), if they are true.
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const stated = bytes.length > 18 ? view.getUint32(bytes.length - 4, true) : 0;
  if (stated > MOST && stated < DENSEST * bytes.length) throw tooLarge();
  const parts: Uint8Array[] = [];
  let size = 0;
  const stream = new Gunzip((part) => {
    size += part.length;
    if (size > MOST) throw tooLarge();
    parts.push(part);
  });
  const damaged = () =>
    new Failure('package-damaged', 'The packed file can’t be unpacked: it was cut off or changed. Ask for it again.');
  try {
    // Piece by piece, so that what becomes too large is noticed on the way.
    for (let at = 0; at < bytes.length; at += 65_536) stream.push(bytes.subarray(at, at + 65_536), at + 65_536 >= bytes.length);
  } catch (error) {
    if (error instanceof Failure) throw error;
    throw damaged();
  }
  if (!size) throw damaged();
  const whole = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

/** What is known of the kinds of files. */
interface Knowledge {
  /** Whether such a file can become a master. */
  readonly comesIn: (bytes: Uint8Array) => boolean;
  /** Names of the files that it needs beside it. */
  readonly namedIn: (bytes: Uint8Array) => Promise<readonly string[]>;
}

const folderOf = (name: string): string => name.replace(/[^/]*$/, '');
const NAMES = 5;
const listed = (names: readonly string[]): string =>
  `${names
    .slice(0, NAMES)
    .map((one) => `“${one}”`)
    .join(', ')}${names.length > NAMES ? ' …' : ''}`;

/**
 * The one file of a package that can become a master, with those beside it.
 * @throws Failure `several-inside`, `not-known`
 */
async function mainOf(files: ReadonlyMap<string, Uint8Array>, name: string, { comesIn, namedIn }: Knowledge): Promise<Unpacked> {
  const known = [...files].filter(([, bytes]) => comesIn(bytes));
  // What another file names, for instance a picture in a drawing, comes in with that one.
  const named = new Set<string>();
  for (const [own, bytes] of known.length > 1 ? known : [])
    for (const other of await namedIn(bytes)) named.add(folderOf(own) + other);
  const others = known.filter(([own]) => !named.has(own));
  const possible = others.length ? others : known;
  const [first, second] = possible;
  if (second)
    throw new Failure(
      'several-inside',
      `“${name}” holds ${possible.length} files that can each become a master: ${listed(possible.map(([one]) => one))}. Unpack it and bring in the ones you need.`,
      { file: name },
    );
  if (!first)
    throw new Failure(
      'not-known',
      `“${name}” holds no file that can become a master: ${listed([...files.keys()]) || 'nothing is in it'}.`,
      {
        file: name,
      },
    );
  const folder = folderOf(first[0]);
  return { name: first[0].slice(folder.length), bytes: first[1], beside: (other) => files.get(folder + other) };
}

/** What a file holds that is itself of no kind that is read: packed by itself, or in a package with what it needs. */
export async function unpacked(bytes: Uint8Array, name: string, knowledge: Knowledge): Promise<Unpacked | null> {
  if (bytes[0] === 0x1f && bytes[1] === 0x8b)
    return { name: name.replace(/\.svgz$/i, '.svg').replace(/\.gz$/i, ''), bytes: gunzipped(bytes) };
  const files = packedFiles(bytes);
  return files && mainOf(files, name, knowledge);
}

import { digest, digest512 } from '../../base/bytes/hasher';
import { decodeText, encodeText } from '../../base/bytes/text';
import { NATIVE_EXTENSION } from '../../document/native';
import { unpackEntries } from '../../document/native/zip';
import { Failure } from '../../base/failure/failure';

/** A bag (RFC 8493): files by their path below its folder. */
export type Bag = ReadonlyMap<string, Uint8Array>;

/** A file of a bag that is not as it was when it was laid in. */
interface BagFinding {
  readonly file: string;
  readonly what: 'changed' | 'missing' | 'not listed';
}

const DECLARATION = 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n';
export const INFO = 'bag-info.txt';
const PAYLOAD = 'data/';

/** Checksums that manifests are made by (RFC 8493, 2.4). */
const SUMS = { sha256: digest, sha512: digest512 } as const;
type Sum = keyof typeof SUMS;
const ALGORITHMS = Object.keys(SUMS) as Sum[];

/** Names in manifests: line ends and the sign that states them are stated by numbers (RFC 8493, 2.1.3). */
const stated = (path: string): string =>
  path.replace(/[%\r\n]/g, (letter) => ({ '%': '%25', '\r': '%0D', '\n': '%0A' })[letter]!);
const meant = (path: string): string =>
  path.replace(/%(25|0D|0A)/gi, (_, code: string) => String.fromCharCode(Number.parseInt(code, 16)));

const listed = (files: Iterable<readonly [string, Uint8Array]>, sum: Sum): Uint8Array =>
  encodeText([...files].map(([path, bytes]) => `${SUMS[sum](bytes)}  ${stated(path)}\n`).join(''));

/** The checksums of all files of a bag that are no payload and no such list. */
export function withTagManifests(files: ReadonlyMap<string, Uint8Array>): Map<string, Uint8Array> {
  const rest = [...files].filter(([path]) => !path.startsWith('tagmanifest-'));
  const tags = rest.filter(([path]) => !path.startsWith(PAYLOAD));
  return new Map([...rest, ...ALGORITHMS.map((sum) => [`tagmanifest-${sum}.txt`, listed(tags, sum)] as const)]);
}

/**
 * Lays files into a bag.
 * @param payload files by their path below `data/`
 * @param info what is said of it, in order (RFC 8493, 2.2.2)
 */
export function bagOf(payload: ReadonlyMap<string, Uint8Array>, info: readonly (readonly [string, string])[]): Bag {
  const data = [...payload].map(([path, bytes]) => [PAYLOAD + path, bytes] as const);
  const size = data.reduce((sum, [, { length }]) => sum + length, 0);
  const words = [...info, ['Payload-Oxum', `${size}.${data.length}`] as const];
  // A line of its own for each: what would begin another is a blank.
  const text = words.map(([label, value]) => `${label}: ${value.replace(/\s+/g, ' ')}\n`).join('');
  return withTagManifests(
    new Map([
      ['bagit.txt', encodeText(DECLARATION)],
      [INFO, encodeText(text)],
      ...ALGORITHMS.map((sum) => [`manifest-${sum}.txt`, listed(data, sum)] as const),
      ...data,
    ]),
  );
}

/** What a bag says of itself: label → value; lines that go on are put together. */
export function infoOf(bag: Bag): Map<string, string> {
  const text = decodeText(bag.get(INFO) ?? new Uint8Array())
    .replace(/\r\n?/g, '\n')
    .replace(/\n[ \t]+/g, ' ');
  return new Map(
    text.split('\n').flatMap((line): [string, string][] => {
      const at = line.indexOf(':');
      return at > 0 ? [[line.slice(0, at), line.slice(at + 1).trim()]] : [];
    }),
  );
}

/** Path → checksum, as a manifest states them. */
function manifest(bytes: Uint8Array, name: string): Map<string, string> {
  const entries = new Map<string, string>();
  for (const line of decodeText(bytes).split(/\r\n|\r|\n/)) {
    if (!line.trim()) continue;
    const [, sum, path] = /^([0-9A-Fa-f]+)[ \t]+\*?([^ \t*].*)$/.exec(line) ?? [];
    if (!sum || !path)
      throw new Failure('bag-damaged', `${name} has a line that is no checksum and name: “${line.slice(0, 80)}”.`);
    entries.set(meant(path).replace(/^\.\//, ''), sum.toLowerCase());
  }
  return entries;
}

/**
 * Holds each file of a bag against its checksums.
 * @returns what is not as it was when it was laid in, by name, in the order of the names
 * @throws Failure `bag-damaged` where it is no bag, or says nothing that could be checked
 */
export function checkBag(bag: Bag): BagFinding[] {
  const version = /^BagIt-Version: (\d+)\.(\d+)/m.exec(decodeText(bag.get('bagit.txt') ?? new Uint8Array()));
  if (!version) throw new Failure('bag-damaged', 'There is no bagit.txt that says which version of BagIt this is.');
  const found = new Map<string, BagFinding['what']>();
  const known = (kind: 'manifest' | 'tagmanifest'): Sum[] => ALGORITHMS.filter((sum) => bag.has(`${kind}-${sum}.txt`));
  if (!known('manifest').length)
    throw new Failure(
      'bag-damaged',
      'There is no list of checksums that is known here: manifest-sha256.txt or manifest-sha512.txt.',
    );
  for (const kind of ['manifest', 'tagmanifest'] as const)
    for (const sum of known(kind)) {
      const name = `${kind}-${sum}.txt`;
      const entries = manifest(bag.get(name)!, name);
      for (const [path, is] of entries) {
        const bytes = bag.get(path);
        if (!bytes) found.set(path, 'missing');
        else if (SUMS[sum](bytes) !== is) found.set(path, 'changed');
      }
      // Each list of payload names all of it (RFC 8493, 3).
      if (kind === 'manifest')
        for (const path of bag.keys()) if (path.startsWith(PAYLOAD) && !entries.has(path)) found.set(path, 'not listed');
    }
  return [...found].sort(([a], [b]) => (a < b ? -1 : 1)).map(([file, what]) => ({ file, what }));
}

/** What became of a file, in words. */
export const findingInWords = ({ file, what }: BagFinding): string =>
  `${file} ${what === 'changed' ? 'is not as its checksum says' : what === 'missing' ? 'is missing' : 'is in no list of checksums'}`;

/** The files of a bag in a zip archive, by their path below its folder. @throws Failure `bag-damaged` */
export function bagIn(bytes: Uint8Array): Bag {
  const entries = unpackEntries(bytes);
  const start = [...entries.keys()].find((name) => /^([^/]+\/)?bagit\.txt$/.test(name));
  if (start === undefined) throw new Failure('bag-damaged', 'There is no bagit.txt: this is no bag.');
  const folder = start.slice(0, -'bagit.txt'.length);
  return new Map(
    [...entries].flatMap(([name, held]) => (name.startsWith(folder) ? [[name.slice(folder.length), held] as const] : [])),
  );
}

/** Where the master lies among the payload. */
export const MASTER = `master/master.${NATIVE_EXTENSION}`;

/** The native package in a bag of ours; null where there is none. */
export const nativeInBag = (bag: Bag): Uint8Array | null => bag.get(PAYLOAD + MASTER) ?? null;

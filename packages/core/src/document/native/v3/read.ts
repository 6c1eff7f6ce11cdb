import { Failure } from '../../../base/failure/failure';
import { digest } from '../../hash';
import { Master } from '../../schema';
import { assertSound } from '../../sound';
import { History, Manifest, NATIVE_MEDIA_TYPE, NATIVE_VERSION, type NativePackage } from '../package';
import { upgrade2to3 } from '../upgrade/two-to-three';
import { readEntries2 } from '../v2/read';
import { fits, parseJson } from '../checked';
import { ORIGIN } from '../origin';
import { entryNames, firstEntryName, unpackEntries } from '../zip';

/** Whether this is a copy that was written in an older native version: it says where it comes from. */
export const isNativeCopy = (bytes: Uint8Array): boolean => entryNames(bytes).includes(ORIGIN);

/** Media types of other packages that begin with an entry of that name, too (ODF 1.3-2, 3.3; EPUB OCF, 4.2). */
const OTHERS = /^application\/(vnd\.oasis|epub)/;

/** Whether this looks like a native package; a copy that was written in an older version is none. */
export function looksNative(bytes: Uint8Array): boolean {
  if (firstEntryName(bytes) !== 'mimetype' || isNativeCopy(bytes)) return false;
  // Squeezed, it says nothing here: then the list of parts does.
  if (bytes[8] || bytes[9]) return entryNames(bytes).includes('manifest.json');
  // It lies in them unpacked, behind its name and what else its head says (APPNOTE 4.3.7).
  const start = 30 + 'mimetype'.length + bytes[28]! + 256 * bytes[29]!;
  return !OTHERS.test(new TextDecoder('latin1').decode(bytes.subarray(start, start + 60)));
}

/**
 * Reads a native package; one of version 2 is brought up to now in memory, and the file stays as it is.
 * @throws Failure `not-native`, `newer-version` (nothing of it is touched), `package-damaged` that names the part, and what
 * `assertSound` says of what can't be kept
 */
export function readPackage(bytes: Uint8Array): NativePackage {
  const found = packageOf(bytes);
  assertSound(found.master);
  return found;
}

function packageOf(bytes: Uint8Array): NativePackage {
  if (firstEntryName(bytes) === undefined)
    throw new Failure('not-native', 'This is not a master: a native package starts as a zip archive, and this file does not.', {
      byte: 0,
    });
  const entries = unpackEntries(bytes);
  const text = (path: string): string => {
    const entry = entries.get(path);
    if (!entry) throw new Failure('package-damaged', `The package has no ${path}.`, { node: path });
    return new TextDecoder().decode(entry);
  };
  if (!entries.has('mimetype') || text('mimetype').trim() !== NATIVE_MEDIA_TYPE)
    throw new Failure('not-native', 'This is a zip archive, but not a master: its first entry does not name our format.');
  const raw = parseJson(text('manifest.json'), 'manifest.json');
  const version = Number((raw as { version?: unknown } | null)?.version);
  if (version > NATIVE_VERSION)
    throw new Failure(
      'newer-version',
      `This master is of native version ${version}, written by ${String((raw as { writer?: unknown }).writer ?? 'a newer program').slice(0, 80)}; ` +
        `this program knows versions up to ${NATIVE_VERSION}. Ask its sender for version ${NATIVE_VERSION}. Nothing was changed.`,
    );
  if (version === 2) return { ...upgrade2to3(readEntries2(entries)), native: 2 };
  const manifest = fits(Manifest, raw, 'manifest.json');
  if (manifest.version !== NATIVE_VERSION)
    throw new Failure('older-version', `This says that it is of native version ${manifest.version}; there was no such package.`);
  for (const { path, sha256 } of manifest.entries) {
    const entry = entries.get(path);
    if (!entry || digest(entry) !== sha256)
      throw new Failure('package-damaged', `The part ${path} is ${entry ? 'not as its checksum says' : 'missing'}.`, {
        node: path,
      });
  }
  const master = fits(Master, parseJson(text('master.json'), 'master.json'), 'master.json');
  const history = entries.has('history/history.json')
    ? fits(History, parseJson(text('history/history.json'), 'history/history.json'), 'history/history.json')
    : null;
  const resources = new Map<string, Uint8Array>();
  for (const [path, content] of entries)
    if (path.startsWith('resources/')) {
      const sha = path.slice('resources/'.length);
      if (digest(content) !== sha)
        throw new Failure('package-damaged', `The kept file ${path} is not what its name says.`, { node: path });
      resources.set(sha, content);
    }
  return { master, rev: manifest.rev, time: manifest.time, history, resources, native: NATIVE_VERSION };
}

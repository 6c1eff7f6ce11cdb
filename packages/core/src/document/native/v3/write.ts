import { canonical, digest } from '../../hash';
import { encodeText } from '../../../base/bytes/text';
import { type Manifest, NATIVE_MEDIA_TYPE, NATIVE_VERSION, type NativePackage } from '../package';
import { packEntries } from '../zip';

/** Native package, version 3 (docs/native-format.md). The same content gives the same bytes. */
export function writePackage({ master, rev, time, history, resources }: NativePackage): Uint8Array {
  const content = new Map<string, Uint8Array>([['master.json', encodeText(canonical(master))]]);
  for (const sha of [...resources.keys()].sort()) content.set(`resources/${sha}`, resources.get(sha)!);
  if (history) content.set('history/history.json', encodeText(canonical(history)));
  const manifest: Manifest = {
    format: 'inkwell',
    version: NATIVE_VERSION,
    writer: 'inkwell-twin 0.1',
    master: master.id,
    rev,
    time,
    entries: [...content].map(([path, bytes]) => ({ path, size: bytes.length, sha256: digest(bytes) })),
  };
  const entries = new Map([
    ['mimetype', encodeText(NATIVE_MEDIA_TYPE)],
    ['manifest.json', encodeText(`${JSON.stringify(manifest, null, 1)}\n`)],
    ...content,
  ]);
  return packEntries(entries, new Set(['mimetype']));
}

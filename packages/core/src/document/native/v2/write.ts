import { encodeText } from '../../../base/bytes/text';
import { canonical, digest } from '../../hash';
import { NATIVE_MEDIA_TYPE } from '../package';
import { packEntries } from '../zip';
import type { Package2 } from './schema';

/** Writes a package of version 2. The same content gives the same bytes. */
export function writePackage2({ document, rev, time, pictures }: Package2, writer = 'inkwell-twin 0.1'): Uint8Array {
  const content = new Map<string, Uint8Array>([['master.json', encodeText(canonical(document))]]);
  for (const sha of [...pictures.keys()].sort()) content.set(`pictures/${sha}`, pictures.get(sha)!);
  const manifest = {
    format: 'inkwell',
    version: 2,
    writer,
    rev,
    time,
    entries: [...content].map(([path, bytes]) => ({ path, sha256: digest(bytes) })),
  };
  return packEntries(
    new Map([
      ['mimetype', encodeText(NATIVE_MEDIA_TYPE)],
      ['manifest.json', encodeText(`${JSON.stringify(manifest, null, 1)}\n`)],
      ...content,
    ]),
    new Set(['mimetype']),
  );
}

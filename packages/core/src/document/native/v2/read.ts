import { Failure } from '../../../base/failure/failure';
import { digest } from '../../hash';
import { fits, parseJson } from '../checked';
import { Document2, Manifest2, type Package2 } from './schema';

/**
 * Reads the entries of a package of version 2.
 * @throws Failure `package-damaged` that names the part
 */
export function readEntries2(entries: ReadonlyMap<string, Uint8Array>): Package2 {
  const part = (path: string): Uint8Array => {
    const bytes = entries.get(path);
    if (!bytes) throw new Failure('package-damaged', `The part ${path} is missing.`, { node: path });
    return bytes;
  };
  const json = (path: string) => parseJson(new TextDecoder().decode(part(path)), path);
  const manifest = fits(Manifest2, json('manifest.json'), 'manifest.json');
  for (const { path, sha256 } of manifest.entries)
    if (digest(part(path)) !== sha256)
      throw new Failure('package-damaged', `The part ${path} is not as its checksum says.`, { node: path });
  const document = fits(Document2, json('master.json'), 'master.json');
  const pictures = new Map(document.pictures.map(({ sha256 }) => [sha256, part(`pictures/${sha256}`)]));
  for (const [sha, bytes] of pictures)
    if (digest(bytes) !== sha)
      throw new Failure('package-damaged', `The picture pictures/${sha} is not what its name says.`, { node: sha });
  return { document, rev: manifest.rev, time: manifest.time, pictures };
}

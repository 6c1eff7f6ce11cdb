import { toBase64 } from '../base/bytes/base64';
import { decodeMarkup, encodeText } from '../base/bytes/text';
import { unpackEntries } from '../document/native/zip';

/** The bytes of a file that lies beside another one, by the name it is called there; undefined where it is not there. */
export type FindBeside = (name: string) => Uint8Array | undefined;

/** Media types by file extension, of what files that come in refer to. */
const MEDIA: Readonly<Record<string, string>> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
  bmp: 'image/bmp',
  tif: 'image/tiff',
  tiff: 'image/tiff',
  svg: 'image/svg+xml',
};

/** A name that leads to a file beside and not elsewhere (RFC 3986, 4.2), without what was written for its blanks; else undefined. */
function plainReference(reference: string): string | undefined {
  if (!reference || /^(?:[a-z][a-z\d+.-]*:|[/\\#?])/i.test(reference)) return undefined;
  let name = reference.replace(/[?#].*$/s, '').replace(/^(?:\.\/)+/, '');
  try {
    name = decodeURIComponent(name);
  } catch {
    // A name with a per cent sign of its own.
  }
  return /(^|[\\/])\.\.([\\/]|$)|\0/.test(name) ? undefined : name;
}

/** What a reference names, as an address that holds it; undefined where it is not there. */
export function besideAsData(reference: string, find: FindBeside): string | undefined {
  const name = plainReference(reference);
  const bytes = name === undefined ? undefined : find(name);
  if (!bytes) return undefined;
  const type = MEDIA[/\.([^.]+)$/.exec(name!)?.[1]?.toLowerCase() ?? ''] ?? 'application/octet-stream';
  return `data:${type};base64,${toBase64(bytes)}`;
}

/** A marked-up text with the pictures in it that its elements refer to. @param attribute that names them, as a pattern */
export function withPicturesInside(bytes: Uint8Array, element: string, attribute: string, find: FindBeside): Uint8Array {
  const text = decodeMarkup(bytes);
  const elements = new RegExp(`<(?:[a-z]+:)?${element}\\b[^<>]*>`, 'gi');
  const named = new RegExp(`(\\s(?:${attribute})\\s*=\\s*)("[^"]*"|'[^']*')`, 'gi');
  const whole = text.replace(elements, (tag) =>
    tag.replace(named, (all, before: string, quoted: string) => {
      const data = besideAsData(quoted.slice(1, -1).replace(/&amp;/g, '&'), find);
      return data ? `${before}"${data}"` : all;
    }),
  );
  return whole === text ? bytes : encodeText(whole);
}

/** What systems put into packages besides what was packed. */
const OWN = /^__MACOSX\/|(^|\/)(\.[^/]*|Thumbs\.db|desktop\.ini)$/;

/** The files of a zip package by their names, without what a system added; null where it is none. */
export function packedFiles(bytes: Uint8Array): ReadonlyMap<string, Uint8Array> | null {
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b || bytes[2] !== 3) return null;
  return new Map([...unpackEntries(bytes)].filter(([name]) => !OWN.test(name)));
}

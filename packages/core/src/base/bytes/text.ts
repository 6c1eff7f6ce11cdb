import { Failure } from '../failure/failure';

const MB = 1024 * 1024;
/** Largest text file a reader takes, bytes. */
const READ_LIMIT = 256 * MB;

/** @throws Failure `file-too-large` for a file that is read as a whole and is larger than readers take */
export function withinLimit(bytes: Uint8Array): void {
  if (bytes.length > READ_LIMIT)
    throw new Failure(
      'file-too-large',
      `The file has ${(bytes.length / MB).toFixed(0)} MB; readers take up to ${READ_LIMIT / MB} MB.`,
    );
}

/** Encodings by the marks that a text can begin with (Unicode 15, 2.6 and 23.8), and by how `<` looks in them without one. */
const MARKS: readonly (readonly [encoding: string, mark: readonly number[]])[] = [
  ['utf-16le', [0xff, 0xfe]],
  ['utf-16be', [0xfe, 0xff]],
  ['utf-16le', [0x3c, 0]],
  ['utf-16be', [0, 0x3c]],
];
/** The encoding of two bytes a letter that a text begins in; undefined where it is none. */
export const wideAt = (bytes: Uint8Array): string | undefined =>
  MARKS.find(([, mark]) => mark.every((byte, i) => bytes[i] === byte))?.[0];

/** What Windows-1252 has where Latin-1 has controls, from 0x80 on (Encoding Standard, 9). */
const OF_WINDOWS = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

/**
 * The bytes as text in an encoding. Latin-1 is Windows-1252 under another name (Encoding Standard, 4.2): not every version of
 * Node.js holds to that, and its controls are letters nobody wrote.
 * @param label of the encoding, as the standard has it
 * @throws TypeError where `fatal` is wanted and the bytes are not so encoded
 */
export function decodeAs(bytes: Uint8Array, label: string, fatal = false): string {
  const decoder = new TextDecoder(label, { fatal });
  const text = decoder.decode(bytes);
  if (decoder.encoding !== 'windows-1252') return text;
  return text.replace(/[\x80-\x9f]/g, (letter) => OF_WINDOWS[letter.charCodeAt(0) - 0x80]!);
}

/**
 * The bytes as text: UTF-16 where they begin so, else UTF-8, and where they are not valid UTF-8 (older interchange files) another.
 * @param older that other encoding, by a label of the WHATWG's
 */
export function decodeText(bytes: Uint8Array, older = 'latin1'): string {
  withinLimit(bytes);
  const wide = wideAt(bytes);
  if (wide) return new TextDecoder(wide).decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return decodeAs(bytes, older);
  }
}

/** Whether bytes, each by themselves, are letters in UTF-8. */
export function isUtf8(texts: readonly Uint8Array[]): boolean {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  try {
    for (const text of texts) decoder.decode(text);
    return true;
  } catch {
    return false;
  }
}

/** What a text of elements says of its own encoding (XML 1.0, 4.3.3; HTML, 4.2.5.4), where a decoder knows it. */
function statedIn(bytes: Uint8Array): string | undefined {
  const head = String.fromCharCode(...bytes.subarray(0, 1024));
  const label = /<\?xml[^>]*\sencoding\s*=\s*["']([\w.:-]+)|<meta\s[^>]*charset\s*=\s*["']?([\w.:-]+)/i.exec(head);
  try {
    return new TextDecoder(label?.[1] ?? label?.[2]).encoding;
  } catch {
    return undefined;
  }
}

/** The text of a file of elements: Unicode where it is that, else in the encoding that it states, else in that of older programs. */
export function decodeMarkup(bytes: Uint8Array): string {
  const stated = statedIn(bytes);
  // Letters of seven bits that are switched between look like ASCII.
  if (stated?.startsWith('iso-2022')) return decodeAs(bytes, stated);
  return decodeText(bytes, stated && stated !== 'utf-8' ? stated : 'latin1');
}

export const encodeText = (text: string): Uint8Array => new TextEncoder().encode(text);

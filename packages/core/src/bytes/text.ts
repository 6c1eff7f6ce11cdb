import { Failure } from '../failure/failure';

/** Largest text file a reader takes, bytes. */
const READ_LIMIT = 256 * 1024 * 1024;

/** Encodings by the marks that a text can begin with (Unicode 15, 2.6 and 23.8), and by how `<` looks in them without one. */
const MARKS: readonly (readonly [encoding: string, mark: readonly number[]])[] = [
  ['utf-16le', [0xff, 0xfe]],
  ['utf-16be', [0xfe, 0xff]],
  ['utf-16le', [0x3c, 0, 0x3f, 0]],
  ['utf-16be', [0, 0x3c, 0, 0x3f]],
  ['utf-16le', [0x3c, 0, 0x73, 0]],
  ['utf-16be', [0, 0x3c, 0, 0x73]],
];

/**
 * The bytes as text: UTF-16 where they begin so, else UTF-8, and where they are not valid UTF-8 (older interchange files) another.
 * @param older that other encoding, by a label of the WHATWG's
 */
export function decodeText(bytes: Uint8Array, older = 'latin1'): string {
  if (bytes.length > READ_LIMIT)
    throw new Failure('file-too-large', `The file has ${(bytes.length / 1048576).toFixed(0)} MB; readers take up to 64 MB.`);
  const wide = MARKS.find(([, mark]) => mark.every((byte, i) => bytes[i] === byte));
  if (wide) return new TextDecoder(wide[0]).decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder(older).decode(bytes);
  }
}

export const encodeText = (text: string): Uint8Array => new TextEncoder().encode(text);

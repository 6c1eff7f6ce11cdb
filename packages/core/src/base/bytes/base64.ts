import { Failure } from '../failure/failure';

/** Letters a step, so that no array of arguments grows too long; a multiple of three. */
const STEP = 24_573;

/** Bytes as Base64 (RFC 4648, 4). */
export function toBase64(bytes: Uint8Array): string {
  const parts: string[] = [];
  for (let at = 0; at < bytes.length; at += STEP) parts.push(btoa(String.fromCharCode(...bytes.subarray(at, at + STEP))));
  return parts.join('');
}

/** The bytes of Base64, spaces and line ends in it passed over. @throws Failure `base64-damaged` */
export function fromBase64(text: string): Uint8Array {
  let letters: string;
  try {
    letters = atob(text.replace(/\s+/g, ''));
  } catch {
    throw new Failure('base64-damaged', 'What should be Base64 is not.');
  }
  const bytes = new Uint8Array(letters.length);
  for (let i = 0; i < letters.length; i++) bytes[i] = letters.charCodeAt(i);
  return bytes;
}

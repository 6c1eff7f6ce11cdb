import { Failure } from '../failure/failure';

/** Largest text file a reader takes, bytes. */
export const READ_LIMIT = 256 * 1024 * 1024;

/** The bytes as text: UTF-8, and Latin-1 where they are not valid UTF-8 (older interchange files). */
export function decodeText(bytes: Uint8Array): string {
  if (bytes.length > READ_LIMIT)
    throw new Failure('file-too-large', `The file has ${(bytes.length / 1048576).toFixed(0)} MB; readers take up to 64 MB.`);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('latin1').decode(bytes);
  }
}

export const encodeText = (text: string): Uint8Array => new TextEncoder().encode(text);

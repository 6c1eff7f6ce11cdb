import type { Encoding } from '../../base/bytes/encodings';
import { guessEncoding } from '../../base/bytes/guess-encoding';
import { decodeAs } from '../../base/bytes/text';
import { Failure } from '../../base/failure/failure';

/** How text is encoded: by its first bytes, else UTF-8 where it is that, else the likeliest, which is a guess. */
export function encodingOf(bytes: Uint8Array): { encoding: Encoding; sure: boolean } {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return { encoding: 'utf-16le', sure: true };
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return { encoding: 'utf-16be', sure: true };
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return { encoding: 'utf-8', sure: true };
  } catch {
    return { encoding: guessEncoding(bytes), sure: false };
  }
}

/** @throws Failure `encoding` where bytes are not so encoded, with the place */
export function decode(bytes: Uint8Array, encoding: Encoding): string {
  try {
    return decodeAs(bytes, encoding, encoding === 'utf-8');
  } catch {
    throw new Failure('encoding', `The text is not in ${encoding} all through. Choose another encoding.`);
  }
}

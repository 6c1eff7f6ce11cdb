import { Failure } from '../base/failure/failure';
import type { CopyFile } from './codec';

/** Stands in a mark until it is known what the copy says: as long as a digest is. */
export const UNSEALED = '0'.repeat(40);
const PLACE = new TextEncoder().encode(`says=${UNSEALED}`);

/**
 * Writes the digest of what a copy says over the zeros in its mark, in all places where a file has it as plain text.
 * @throws Failure `mark-missing` where the first file has no such place
 */
export function sealText(files: readonly CopyFile[], says: string): readonly CopyFile[] {
  const digits = new TextEncoder().encode(says);
  files.forEach(({ bytes }, i) => {
    let at = placeIn(bytes, 0);
    if (at < 0 && i === 0)
      throw new Failure('mark-missing', 'The copy has no place for its mark of origin. This is a defect of ours.');
    for (; at >= 0; at = placeIn(bytes, at + PLACE.length)) bytes.set(digits, at + PLACE.length - digits.length);
  });
  return files;
}

/** How far the search may go on from a byte under the last one of the pattern (R. N. Horspool, 1980). */
const SKIP = new Uint8Array(256).fill(PLACE.length);
PLACE.subarray(0, -1).forEach((byte, i) => (SKIP[byte] = PLACE.length - 1 - i));

/** The next place of a mark that waits for its digest, from `from` on; -1 where there is none. */
function placeIn(bytes: Uint8Array, from: number): number {
  const last = PLACE.length - 1;
  for (let at = from; at + last < bytes.length; at += SKIP[bytes[at + last]!]!) {
    let k = last;
    while (k >= 0 && bytes[at + k] === PLACE[k]) k--;
    if (k < 0) return at;
  }
  return -1;
}

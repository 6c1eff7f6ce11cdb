import { Failure } from '../failure/failure';
import type { CopyFile } from '../targets/codec';

/** Stands in a mark until it is known what the copy says: as long as a digest is. */
export const UNSEALED = '0'.repeat(40);
const PLACE = new TextEncoder().encode(`says=${UNSEALED}`);

/**
 * Writes the digest of what a copy says over the zeros in its mark, in every file that has one as plain text.
 * @throws Failure `mark-missing` where the first file has no such place
 */
export function sealText(files: readonly CopyFile[], says: string): readonly CopyFile[] {
  const digits = new TextEncoder().encode(says);
  files.forEach(({ bytes }, i) => {
    const at = indexOf(bytes, PLACE);
    if (at < 0 && i === 0)
      throw new Failure('mark-missing', 'The copy has no place for its mark of origin. This is a defect of ours.');
    if (at >= 0) bytes.set(digits, at + 5);
  });
  return files;
}

/** Marks stand at the head of a file or at its end. */
function indexOf(bytes: Uint8Array, part: Uint8Array): number {
  for (let at = bytes.indexOf(part[0]!); at >= 0; at = bytes.indexOf(part[0]!, at + 1)) {
    let k = 1;
    while (k < part.length && bytes[at + k] === part[k]) k++;
    if (k === part.length) return at;
  }
  return -1;
}

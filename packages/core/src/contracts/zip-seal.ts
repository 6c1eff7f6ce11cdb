import { Failure } from '../base/failure/failure';
import type { CopyFile } from './codec';
import { sealText } from './seal';

const TABLE = new Uint32Array(256).map((_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c >>> 0;
});
/** The checksum of zip entries (APPNOTE 4.4.7). */
function crc32(bytes: Uint8Array): number {
  let c = 0xffffffff;
  for (const byte of bytes) c = TABLE[(c ^ byte) & 0xff]! ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}

const CENTRAL = 0x02014b50;

/**
 * Writes the digest of what a copy says into the mark of a zip package, in an entry that lies in it unpacked, and mends the entry's
 * checksum in both places that state it (APPNOTE 4.3.7, 4.3.12).
 * @param name of the entry that holds the mark
 */
export function sealZip(files: readonly CopyFile[], name: string, says: string): readonly CopyFile[] {
  const { bytes } = files[0]!;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const wanted = new TextEncoder().encode(name);
  const is = (at: number, length: number) => length === wanted.length && wanted.every((byte, i) => bytes[at + i] === byte);
  // The end record is the last thing in a package of ours: it has no comment.
  const end = bytes.length - 22;
  let at = view.getUint32(end + 16, true);
  for (let left = view.getUint16(end + 10, true); left && view.getUint32(at, true) === CENTRAL; left--) {
    const length = view.getUint16(at + 28, true);
    if (is(at + 46, length)) {
      const local = view.getUint32(at + 42, true);
      const start = local + 30 + view.getUint16(local + 26, true) + view.getUint16(local + 28, true);
      const entry = bytes.subarray(start, start + view.getUint32(at + 20, true));
      sealText([{ part: '', bytes: entry }], says);
      const sum = crc32(entry);
      view.setUint32(local + 14, sum, true);
      view.setUint32(at + 16, sum, true);
      return files;
    }
    at += 46 + length + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
  }
  throw new Failure('mark-missing', 'The copy has no place for its mark of origin. This is a defect of ours.');
}

import { inflateSync } from 'node:zlib';

/** Where things stand in the head of a WOFF file and in an entry of its list of tables (W3C, WOFF File Format 1.0, 3 and 4), bytes. */
const HEAD = 44;
const ENTRY = 20;
const SIGNATURE = 0x774f4646;

/** The same for the plain file (ISO/IEC 14496-22, 4.3). */
const PLAIN_HEAD = 12;
const PLAIN_ENTRY = 16;

const padded = (length: number): number => Math.ceil(length / 4) * 4;

/**
 * A font of a WOFF file as plain TrueType or OpenType. Who sets letters with it opens tables again and again, and the library that
 * does so here unpacks a table each time.
 * @param packed the file; one that is no WOFF comes back as it is
 */
export function unpackedFont(packed: Uint8Array): Uint8Array {
  const view = new DataView(packed.buffer, packed.byteOffset, packed.byteLength);
  if (packed.length < HEAD || view.getUint32(0) !== SIGNATURE) return packed;
  const count = view.getUint16(12);
  const tables = Array.from({ length: count }, (_, i) => {
    const [tag, offset, inFile, length, sum] = [0, 4, 8, 12, 16].map((k) => view.getUint32(HEAD + i * ENTRY + k)) as number[];
    const held = packed.subarray(offset!, offset! + inFile!);
    return { tag: tag!, sum: sum!, bytes: inFile! < length! ? inflateSync(held) : held };
  });
  const total = tables.reduce((at, { bytes }) => at + padded(bytes.length), PLAIN_HEAD + count * PLAIN_ENTRY);
  const plain = new Uint8Array(total);
  const out = new DataView(plain.buffer);
  const power = Math.floor(Math.log2(count));
  out.setUint32(0, view.getUint32(4));
  out.setUint16(4, count);
  out.setUint16(6, 16 * 2 ** power);
  out.setUint16(8, power);
  out.setUint16(10, 16 * (count - 2 ** power));
  let at = PLAIN_HEAD + count * PLAIN_ENTRY;
  tables.forEach(({ tag, sum, bytes }, i) => {
    [tag, sum, at, bytes.length].forEach((value, k) => out.setUint32(PLAIN_HEAD + i * PLAIN_ENTRY + 4 * k, value));
    plain.set(bytes, at);
    at += padded(bytes.length);
  });
  return plain;
}

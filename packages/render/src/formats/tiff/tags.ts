/** The tag of a colour profile (ICC.1:2022, annex B.4). */
export const PROFILE_TAG = 34675;
/** The tag of an XMP packet (ISO 16684-3, 1.1.9). */
export const XMP_TAG = 700;
const [BYTE, UNDEFINED] = [1, 7];

/**
 * A TIFF with one more field of bytes in its first directory (TIFF 6.0, section 2): the directory is written anew at the end, and
 * the header leads there.
 */
export function withTag(tiff: Uint8Array, tag: number, body: Uint8Array): Uint8Array {
  const view = new DataView(tiff.buffer, tiff.byteOffset, tiff.byteLength);
  const little = view.getUint16(0) === 0x4949;
  const old = view.getUint32(4, little);
  const count = view.getUint16(old, little);
  // Offsets are even.
  const bodyAt = tiff.length + (tiff.length % 2);
  const at = bodyAt + body.length + (body.length % 2);
  const out = new Uint8Array(at + 2 + 12 * (count + 1) + 4);
  out.set(tiff);
  out.set(body, bodyAt);
  const made = new DataView(out.buffer);
  made.setUint32(4, at, little);
  made.setUint16(at, count + 1, little);
  let to = at + 2;
  const own = () => {
    made.setUint16(to, tag, little);
    made.setUint16(to + 2, tag === XMP_TAG ? BYTE : UNDEFINED, little);
    made.setUint32(to + 4, body.length, little);
    made.setUint32(to + 8, bodyAt, little);
    to += 12;
  };
  let done = false;
  for (let i = 0; i < count; i++) {
    const from = old + 2 + 12 * i;
    // Fields stand in the order of their numbers.
    if (!done && view.getUint16(from, little) > tag) {
      own();
      done = true;
    }
    out.set(tiff.subarray(from, from + 12), to);
    to += 12;
  }
  if (!done) own();
  made.setUint32(to, view.getUint32(old + 2 + 12 * count, little), little);
  return out;
}

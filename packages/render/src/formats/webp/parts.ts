const HEADER = 12;
/** Bit of the first part that says that there is an XMP packet (RFC 9649, 2.7). */
const HAS_XMP = 4;

/** A WebP of several parts, as ours are for their profile, with an XMP packet as its last one (RFC 9649, 2.7.1.5). */
export function withXmpPart(webp: Uint8Array, xmp: Uint8Array): Uint8Array {
  const head = Buffer.alloc(8);
  head.write('XMP ', 0, 'latin1');
  head.writeUInt32LE(xmp.length, 4);
  const out = Buffer.concat([webp, head, xmp, Buffer.alloc(xmp.length % 2)]);
  out.writeUInt32LE(out.length - 8, 4);
  out[HEADER + 8]! |= HAS_XMP;
  return out;
}

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

interface Part {
  readonly type: string;
  readonly body: Uint8Array;
}

/** The parts of a WebP, in order (RFC 9649, 2.3 and 2.4); room that follows the end says nothing. */
export function* riffPartsOf(webp: Uint8Array): Generator<Part> {
  const view = new DataView(webp.buffer, webp.byteOffset, webp.byteLength);
  for (let at = HEADER; at + 8 <= webp.length;) {
    if (at >= 8 + view.getUint32(4, true) && webp.subarray(at).every((byte) => byte === 0)) return;
    const type = String.fromCharCode(...webp.subarray(at, at + 4));
    const size = view.getUint32(at + 4, true);
    yield { type, body: webp.subarray(at + 8, at + 8 + size) };
    at += 8 + size + (size % 2);
  }
}

const NAME = 'http://ns.adobe.com/xap/1.0/\0'; // term-guard: standard (ISO 16684-3, 1.1.3)
const [APP0, APP1] = [0xe0, 0xe1];

/** A JPEG with an XMP packet in a segment behind those that tell of the file (ISO 16684-3, 1.1.3); one of at most 65,502 bytes. */
export function withXmpSegment(jpeg: Uint8Array, xmp: Uint8Array): Uint8Array {
  const view = new DataView(jpeg.buffer, jpeg.byteOffset, jpeg.byteLength);
  let at = 2;
  while (jpeg[at] === 0xff && (jpeg[at + 1] === APP0 || jpeg[at + 1] === APP1)) at += 2 + view.getUint16(at + 2);
  const head = Buffer.alloc(4 + NAME.length);
  head.writeUInt16BE(0xff00 | APP1, 0);
  head.writeUInt16BE(2 + NAME.length + xmp.length, 2);
  head.write(NAME, 4, 'latin1');
  return Buffer.concat([jpeg.subarray(0, at), head, xmp, jpeg.subarray(at)]);
}

const START_OF_SCAN = 0xda;

/** A segment before the pixels of a JPEG (ITU-T T.81, B.1.1.4). */
interface Segment {
  readonly marker: number;
  readonly body: Uint8Array;
}

/** The segments before the pixels, in order. */
export function* segmentsOf(jpeg: Uint8Array): Generator<Segment> {
  const view = new DataView(jpeg.buffer, jpeg.byteOffset, jpeg.byteLength);
  for (let at = 2; at + 4 <= jpeg.length && jpeg[at] === 0xff;) {
    // Before a marker may stand as many of these as somebody likes (B.1.1.2).
    while (jpeg[at + 1] === 0xff && at + 4 < jpeg.length) at++;
    if (jpeg[at + 1] === START_OF_SCAN) return;
    const end = at + 2 + view.getUint16(at + 2);
    yield { marker: jpeg[at + 1]!, body: jpeg.subarray(at + 4, end) };
    at = end;
  }
}

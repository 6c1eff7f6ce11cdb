import { crc32 } from 'node:zlib';

/** Works out the checksums of text chunks again, in place (PNG, 5.3 and 11.3.3): what was written into one changed it. */
export function mendChecksums(bytes: Uint8Array): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = view.getUint32(at);
    const end = at + 8 + length;
    if (end + 4 > bytes.length) return;
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (/^[izt]TXt$|^tEXt$/.test(type)) view.setUint32(end, crc32(bytes.subarray(at + 4, end)));
    at = end + 4;
  }
}

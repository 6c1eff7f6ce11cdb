import { crc32, deflateSync } from 'node:zlib';

const latin = (text: string): Buffer => Buffer.from(text, 'latin1');
const KEYWORD = 'XML:com.adobe.xmp'; // term-guard: standard (ISO 16684-3, 1.1.5)
/** After the signature and the header. */
const AFTER_HEADER = 33;

/** A chunk with its length and checksum (PNG, 5.3). */
export function chunk(type: string, body: Uint8Array): Buffer {
  const out = Buffer.alloc(12 + body.length);
  out.writeUInt32BE(body.length, 0);
  out.write(type, 4, 'latin1');
  out.set(body, 8);
  out.writeUInt32BE(crc32(out.subarray(4, 8 + body.length)), 8 + body.length);
  return out;
}

/** A part of a PNG with a name of its own (PNG, 5.3). */
export interface Chunk {
  readonly type: string;
  readonly body: Uint8Array;
}

/** The chunks of a PNG, in order; room that follows the end says nothing. */
export function* chunksOf(png: Uint8Array): Generator<Chunk> {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  for (let at = 8; at + 12 <= png.length;) {
    const end = at + 8 + view.getUint32(at);
    const type = String.fromCharCode(...png.subarray(at + 4, at + 8));
    yield { type, body: png.subarray(at + 8, end) };
    at = end + 4;
    if (type === 'IEND' && png.subarray(at).every((byte) => byte === 0)) return;
  }
}

/** The whole numbers of 32 bits that a chunk begins with. */
export function numbersIn(body: Uint8Array): number[] {
  const view = new DataView(body.buffer, body.byteOffset, body.byteLength);
  return Array.from({ length: body.length >> 2 }, (_, i) => view.getUint32(4 * i));
}

/** A PNG with more chunks behind its header. */
export const withChunks = (png: Uint8Array, chunks: readonly Uint8Array[]): Uint8Array =>
  Buffer.concat([png.subarray(0, AFTER_HEADER), ...chunks, png.subarray(AFTER_HEADER)]);

/** An XMP packet as it lies, so that it can be found and read by anyone (ISO 16684-3, 1.1.5). */
export const xmpChunk = (xmp: string): Uint8Array =>
  chunk('iTXt', Buffer.concat([latin(KEYWORD), Buffer.alloc(5), Buffer.from(xmp, 'utf8')]));

/** A colour profile (PNG, 11.3.2.3). */
export const profileChunk = (name: string, icc: Uint8Array): Uint8Array =>
  chunk('iCCP', Buffer.concat([latin(name), Buffer.alloc(2), deflateSync(icc)]));

/** How many pixels go on a metre (PNG, 11.3.4.3). */
export function densityChunk(ppi: number): Uint8Array {
  const body = Buffer.alloc(9);
  const perMetre = Math.round(ppi / 0.0254);
  body.writeUInt32BE(perMetre, 0);
  body.writeUInt32BE(perMetre, 4);
  body[8] = 1;
  return chunk('pHYs', body);
}

/** A PNG without the chunks of a type. */
export function withoutChunk(png: Uint8Array, type: string): Uint8Array {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  const parts = [png.subarray(0, 8)];
  for (let at = 8; at + 12 <= png.length;) {
    const end = at + 12 + view.getUint32(at);
    if (String.fromCharCode(...png.subarray(at + 4, at + 8)) !== type) parts.push(png.subarray(at, end));
    at = end;
  }
  return Buffer.concat(parts);
}

/** Works out the checksums of text chunks again, in place: what was written into one changed it. */
export function mendChecksums(bytes: Uint8Array): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 8; at + 12 <= bytes.length;) {
    const end = at + 8 + view.getUint32(at);
    if (end + 4 > bytes.length) return;
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (type === 'iTXt') view.setUint32(end, crc32(bytes.subarray(at + 4, end)));
    at = end + 4;
  }
}

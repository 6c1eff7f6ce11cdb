import { inflateSync } from 'node:zlib';
import type * as Library from '@cantoo/pdf-lib';

/** Bytes that are unpacked at once. */
const PIECE = 65_536;

/**
 * What a stream holds, piece by piece: the library sets aside as much as it is asked for.
 * @param most bytes; what goes beyond is unpacked no further
 * @returns a little more than that where there is more; what could be read where it is damaged further on is no answer
 * @throws whatever the library throws at a damaged stream
 */
export function unpackedUpTo(lib: typeof Library, stream: Library.PDFRawStream, most: number): Buffer {
  const pieces: Buffer[] = [];
  const unpacked = lib.decodePDFRawStream(stream);
  let length = 0;
  for (let piece; length <= most && (piece = unpacked.getBytes(PIECE)).length; length += piece.length)
    pieces.push(Buffer.from(piece.buffer, piece.byteOffset, piece.length));
  return Buffer.concat(pieces);
}

/** Takes what streams hold out of one budget: a file of a few bytes may unpack to more than any memory. */
export class Unpacking {
  /** What is known of a stream, however often it is named. */
  private readonly known = new Map<Library.PDFRawStream, Uint8Array | null>();

  /** @param left bytes that may be unpacked in all */
  constructor(
    private readonly lib: typeof Library,
    private left: number,
  ) {}

  /** What a stream holds; null where it is damaged, or where that is more than is left. */
  bytes(stream: Library.PDFRawStream): Uint8Array | null {
    let found = this.known.get(stream);
    if (found === undefined) {
      this.known.set(stream, (found = this.unpack(stream)));
      this.left -= found?.length ?? 0;
    }
    return found;
  }

  private unpack(stream: Library.PDFRawStream): Uint8Array | null {
    const { PDFName } = this.lib;
    const filter = stream.dict.get(PDFName.of('Filter'));
    if (!filter) return stream.contents.length > this.left ? null : stream.contents;
    try {
      // Most are packed so, and this is far faster than the library.
      if (filter === PDFName.of('FlateDecode') && !stream.dict.has(PDFName.of('DecodeParms')))
        return inflateSync(stream.contents, { maxOutputLength: Math.max(1, this.left) });
    } catch (error) {
      if ((error as { code?: string }).code === 'ERR_BUFFER_TOO_LARGE') return null;
    }
    try {
      const bytes = unpackedUpTo(this.lib, stream, this.left);
      return bytes.length > this.left ? null : bytes;
    } catch {
      return null;
    }
  }
}

import type { Encoding } from '@inkwell-twin/core';
import { withXmpSegment } from './jpeg/segments';
import { withChunks, xmpChunk } from './png/chunks';
import { XMP_TAG, withTag } from './tiff/tags';
import { withXmpPart } from './webp/parts';

const utf8 = (text: string): Uint8Array => Buffer.from(text, 'utf8');

/** How each format holds an XMP packet (ISO 16684-3). The picture itself stays as it is packed. */
const HOLDS: Readonly<Record<Encoding['format'], (bytes: Uint8Array, xmp: string) => Uint8Array>> = {
  png: (bytes, xmp) => withChunks(bytes, [xmpChunk(xmp)]),
  jpeg: (bytes, xmp) => withXmpSegment(bytes, utf8(xmp)),
  tiff: (bytes, xmp) => withTag(bytes, XMP_TAG, utf8(xmp)),
  webp: (bytes, xmp) => withXmpPart(bytes, utf8(xmp)),
};

/** A file with an XMP packet put into it; unchanged where the packet is empty. */
export const withXmp = (bytes: Uint8Array, format: Encoding['format'], xmp: string): Uint8Array =>
  xmp ? HOLDS[format](bytes, xmp) : bytes;

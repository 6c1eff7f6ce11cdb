import type { Codec } from '@inkwell-twin/core';
import { jpegCodec } from './jpeg/codec';
import { pdfCodec } from './pdf/codec';
import { stepCodec } from './step/codec';
import { pngCodec } from './png/codec';
import { tiffCodec } from './tiff/codec';
import { webpCodec } from './webp/codec';

/** Targets that need a library of this platform. */
export const nodeCodecs: readonly Codec[] = [pdfCodec, pngCodec, jpegCodec, tiffCodec, webpCodec, stepCodec];

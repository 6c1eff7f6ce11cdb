import {
  type Format,
  jpegDeclaration,
  pdfDeclaration,
  pngDeclaration,
  stepDeclaration,
  tiffDeclaration,
  webpDeclaration,
} from '@inkwell-twin/core';

/** Targets that need a library of this platform. */
export const nodeFormats: readonly Format[] = [
  { declaration: pdfDeclaration, codec: async () => (await import('./pdf/codec')).pdfCodec },
  { declaration: pngDeclaration, codec: async () => (await import('./png/codec')).pngCodec },
  { declaration: jpegDeclaration, codec: async () => (await import('./jpeg/codec')).jpegCodec },
  { declaration: tiffDeclaration, codec: async () => (await import('./tiff/codec')).tiffCodec },
  { declaration: webpDeclaration, codec: async () => (await import('./webp/codec')).webpCodec },
  { declaration: stepDeclaration, codec: async () => (await import('./step/codec')).stepCodec },
];

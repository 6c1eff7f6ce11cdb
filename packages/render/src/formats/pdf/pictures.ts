import type { DrawnPicture, Pixels } from '@inkwell-twin/core';
import { pictureEngine } from '../../engines/pictures';
import { fromPixels } from '../../engines/raw';
import type { PdfFile, PdfObject } from './file';

/** Parts of each pixel of a JPEG as its frame header says them (ISO/IEC 10918-1, B.2.2); undefined where it is none. */
function partsOfJpeg(bytes: Uint8Array): number | undefined {
  for (let at = 2; at + 9 < bytes.length && bytes[at] === 0xff;) {
    const marker = bytes[at + 1]!;
    if (marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc)
      return bytes[at + 4] === 8 ? bytes[at + 9] : undefined;
    at += 2 + ((bytes[at + 2]! << 8) | bytes[at + 3]!);
  }
  return undefined;
}

/** What is packed in a PNG, its chunks of data joined. */
function packedIn(png: Uint8Array): Uint8Array {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  const parts: Uint8Array[] = [];
  for (let at = 8; at + 12 <= png.length;) {
    const length = view.getUint32(at);
    if (view.getUint32(at + 4) === 0x49444154) parts.push(png.subarray(at + 8, at + 8 + length));
    at += 12 + length;
  }
  return Buffer.concat(parts);
}

const picture = (width: number, height: number, grey: boolean) => ({
  Type: 'XObject',
  Subtype: 'Image',
  Width: width,
  Height: height,
  ColorSpace: grey ? 'DeviceGray' : 'DeviceRGB',
  BitsPerComponent: 8,
});

/** Pixels packed as a PNG packs them, which a PDF can hold as it is (ISO 32000-1, 7.4.4.4). @param grey opacity alone */
async function packed(file: PdfFile, pixels: Pixels, grey: boolean, more: object): Promise<PdfObject> {
  const source = fromPixels(pixels);
  const png = await (grey ? source.extractChannel(3).toColourspace('b-w') : source.removeAlpha())
    .png({ compressionLevel: 6, adaptiveFiltering: true, palette: false })
    .toBuffer();
  const { width, height } = pixels;
  const parms = { Predictor: 15, Colors: grey ? 1 : 3, BitsPerComponent: 8, Columns: width };
  return file.stream(
    { ...picture(width, height, grey), ...more, Filter: 'FlateDecode', DecodeParms: parms },
    packedIn(png),
    true,
  );
}

/** A picture as an object of a file: a plain JPEG as it is, all else packed without loss, its opacity beside it. */
export async function pictureObject(file: PdfFile, { mediaType, bytes, width, height }: DrawnPicture): Promise<PdfObject> {
  const parts = mediaType === 'image/jpeg' ? partsOfJpeg(bytes) : undefined;
  if (parts === 1 || parts === 3)
    return file.stream({ ...picture(width, height, parts === 1), Filter: 'DCTDecode' }, bytes, true);
  const pixels = await pictureEngine.pixels(bytes, 8);
  let solid = true;
  for (let i = 3; i < pixels.data.length && solid; i += 4) solid = pixels.data[i] === 255;
  const veil = solid ? {} : { SMask: await packed(file, pixels, true, {}) };
  return packed(file, pixels, false, veil);
}

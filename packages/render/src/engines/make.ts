import {
  type Drawing,
  type Encoding,
  Failure,
  type Pixels,
  type ProfileName,
  type Rows,
  heldRows,
  madeRows,
  wholeOf,
  writeSvg,
} from '@inkwell-twin/core';
import sharp, { type Sharp } from 'sharp';
import { densityChunk, profileChunk, withChunks, withoutChunk } from '../formats/png/chunks';
import { PROFILE_TAG, withTag } from '../formats/tiff/tags';
import { PIXEL_LIMIT, WHOLE_LIMIT, limits } from './limits';
import { profileBytes, restated } from './profiles';
import { fromPixels, partsIn } from './raw';
import { FileRows, laidByBand, laidByPipeline } from './strips';
import { megapixels, wordsOf } from './words';

/** Bits as the library names them. */
const spaceOf = (depth: 8 | 16): 'rgb16' | 'srgb' => (depth === 16 ? 'rgb16' : 'srgb');

/** What a pipeline makes of so many pixels, held or laid into a file. */
async function taken(picture: Sharp, depth: 8 | 16, count: number): Promise<Rows> {
  const made = picture.toColourspace(spaceOf(depth)).ensureAlpha();
  if (count > limits.held) return laidByPipeline(made, depth);
  const deep = depth === 16;
  const { data, info } = await made.raw({ depth: deep ? 'ushort' : 'uchar' }).toBuffer({ resolveWithObject: true });
  return heldRows({ width: info.width, height: info.height, data: partsIn(data, deep) });
}

/** Rows that are made when they are asked for, laid into a file. */
const laid = (source: Rows): FileRows => (source instanceof FileRows ? source : laidByBand(source));
export const laidDown = async (source: Rows): Promise<Rows> => (source.held ? source : laid(source));

/** Works on rows as the library takes them in. */
async function worked<T>(source: Rows, work: (picture: Sharp) => Promise<T>): Promise<T> {
  if (source.held) return work(fromPixels(source.held));
  const file = laid(source);
  try {
    return await work(sharp(file.path, { limitInputPixels: PIXEL_LIMIT, sequentialRead: true, ignoreIcc: true }));
  } finally {
    // Up to here the file must not be closed.
    file.touch();
  }
}

export const resize = (source: Rows, width: number, height: number): Promise<Rows> =>
  worked(source, (picture) =>
    taken(picture.resize(width, height, { fit: 'fill', kernel: 'lanczos3' }), source.depth, width * height),
  );

/** An SVG document, from its start to its size, at a size in pixels; how its sides are to each other does not matter then. */
function sizedInPixels(svg: Uint8Array, width: number, height: number): Uint8Array {
  const start = Buffer.from(svg.buffer, svg.byteOffset, svg.byteLength).indexOf('<svg');
  const end = svg.indexOf(62, start);
  const root = Buffer.from(svg.subarray(start, end))
    .toString('utf8')
    .replace(/\s(width|height|preserveAspectRatio)="[^"]*"/g, '');
  const sized = `${root} width="${width}" height="${height}" preserveAspectRatio="none"`;
  return Buffer.concat([svg.subarray(0, start), Buffer.from(sized), svg.subarray(end)]);
}

/** Draws a board through its SVG: each shape of it is drawn at the size asked for, not made small afterwards. */
export function paint(drawing: Drawing, width: number, height: number): Promise<Rows> {
  // A size in millimetres would be taken twice, once by its unit and once by the density.
  return drawnAt(sizedInPixels(writeSvg([{ label: '', drawing }], 4, ''), width, height), width, height);
}

/** @param svg a document that says its size in pixels */
async function drawnAt(svg: Uint8Array, width: number, height: number): Promise<Rows> {
  try {
    const picture = sharp(svg, { density: AS_IT_IS, unlimited: true, limitInputPixels: PIXEL_LIMIT });
    return await taken(picture.resize(width, height, { fit: 'fill' }), 8, width * height);
  } catch (error) {
    if (error instanceof Failure) throw error;
    throw new Failure('not-drawn', `The drawing could not be drawn: ${wordsOf(error)}.`);
  }
}

/** Density at which a length in pixels is as many pixels. */
const AS_IT_IS = 72;
export const drawSvg = async (document: string, width: number, height: number): Promise<Pixels> =>
  wholeOf(await drawnAt(Buffer.from(document), width, height));

const profileOf = (profile: ProfileName): 'p3' | 'srgb' => (profile === 'Display P3' ? 'p3' : 'srgb');

export async function encode(source: Rows, encoding: Encoding): Promise<Uint8Array> {
  const { profile } = encoding;
  const deep = source.depth === 16;
  // The library takes 16 bits without a profile for another space than they are in: what they are stated in is put in by hand.
  const stated = deep && profile === 'Display P3' ? madeRows(source, (band) => restated(band, profile)) : source;
  return worked(stated, (picture) => packed(picture.toColourspace(spaceOf(source.depth)), source, encoding));
}

async function packed(pixels: Sharp, { width, height, depth }: Rows, encoding: Encoding): Promise<Uint8Array> {
  const { format, alpha, quality, ppi, profile } = encoding;
  const deep = depth === 16;
  const vast = width * height > WHOLE_LIMIT;
  if (vast && encoding.progressive)
    throw new Failure(
      'picture-too-large',
      `A progressive JPEG of more than ${megapixels(WHOLE_LIMIT)} pixels needs all of them at once. Ask for a plain one, or for fewer pixels.`,
    );
  let picture = pixels;
  if (!alpha) picture = picture.removeAlpha();
  if (!deep) picture = picture.withMetadata({ density: ppi }).withIccProfile(profileOf(profile));
  switch (format) {
    case 'png': {
      const bytes = await picture.png({ compressionLevel: Number(encoding.compression ?? 6) }).toBuffer();
      if (!deep) return bytes;
      return withChunks(withoutChunk(bytes, 'pHYs'), [profileChunk(profile, await profileBytes(profile)), densityChunk(ppi)]);
    }
    case 'jpeg':
      return picture
        .jpeg({
          quality: quality ?? 90,
          chromaSubsampling: encoding.chroma ?? '4:4:4',
          progressive: encoding.progressive ?? false,
          // Tables made for this very picture need all of it at once.
          optimiseCoding: !vast,
        })
        .toBuffer();
    case 'webp':
      if (width > 16_383 || height > 16_383)
        throw new Failure(
          'picture-too-large',
          'WebP holds at most 16 383 pixels each way. Ask for fewer, or for another format.',
        );
      return picture.webp(quality === null ? { lossless: true } : { quality }).toBuffer();
    case 'tiff': {
      const perMm = ppi / 25.4;
      const compression = (encoding.compression ?? 'deflate') as 'deflate';
      const bytes = await picture.tiff({ compression, predictor: 'horizontal', xres: perMm, yres: perMm }).toBuffer();
      return deep ? withTag(bytes, PROFILE_TAG, await profileBytes(profile)) : bytes;
    }
  }
}

export async function png(source: Pixels): Promise<Uint8Array> {
  const wide = source.data instanceof Uint16Array;
  return fromPixels(source)
    .toColourspace(wide ? 'rgb16' : 'srgb')
    .png({ compressionLevel: 6 })
    .toBuffer();
}

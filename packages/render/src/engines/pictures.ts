import {
  type Drawing,
  type Encoding,
  Failure,
  atDepth,
  begins,
  type PictureEngine,
  type PictureFacts,
  type Pixels,
  type ProfileName,
  type ReadPicture,
  type Rows,
  heldRows,
  madeRows,
  wholeOf,
  writeSvg,
} from '@inkwell-twin/core';
import sharp, { type Metadata, type Sharp } from 'sharp';
import { bmpPixels, isBmp } from './bmp';
import { PROFILE_TAG, withTag } from '../targets/tiff/tags';
import { densityChunk, profileChunk, withChunks, withoutChunk } from '../targets/png/chunks';
import { withXmp } from '../targets/xmp-in';
import { profileName } from './icc';
import { limits } from './limits';
import { profileBytes, restated } from './profiles';
import { FileRows, laidByBand, laidByPipeline } from './strips';

/** Pixels of a picture that may come in. */
export const PIXEL_LIMIT = 450_000_000;
/** Pixels that are opened at once, unpacked, where they must all be there. */
const WHOLE_LIMIT = 120_000_000;

const MEDIA_TYPES: Readonly<Record<string, string>> = {
  png: 'image/png',
  jpeg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
  tiff: 'image/tiff',
};

const megapixels = (count: number): string => `${Math.round(count / 1e6)} million`;

/** What a library says is wrong, in one line. */
const wordsOf = (error: unknown): string =>
  (error instanceof Error ? error.message : String(error))
    .split('\n')[0]!
    .replace(/^vips[a-z]*: /, '')
    .replace(/^Input buffer (has|contains) /, 'it $1 ')
    .slice(0, 160);

const damaged = (error: unknown): Failure =>
  error instanceof Failure
    ? error
    : new Failure('picture-damaged', `The picture is damaged: ${wordsOf(error)}. Ask its sender for it again.`);

/** @param plain its numbers are what is seen: no profile is asked */
export const opened = (bytes: Uint8Array, plain = false): Sharp =>
  sharp(bytes, { ignoreIcc: plain, limitInputPixels: PIXEL_LIMIT, failOn: 'error', sequentialRead: true });

function assertSize(width: number, height: number, most: number): void {
  if (!(width > 0 && height > 0))
    throw new Failure('picture-damaged', `The picture says that it is ${width} × ${height} pixels.`);
  if (width * height > most)
    throw new Failure(
      'picture-too-large',
      `The picture has ${width} × ${height} pixels; at most ${megapixels(most)} are opened. Make it smaller first.`,
    );
}

/** First bytes of the formats that are read; the library knows others, which are not meant. */
const STARTS: readonly (readonly (number | string)[])[] = [
  [0x89, 'PNG'],
  [0xff, 0xd8, 0xff],
  ['GIF8'],
  ['RIFF'],
  ['II*', 0],
  ['MM', 0, '*'],
];

async function metadataOf(bytes: Uint8Array): Promise<Metadata> {
  if (!STARTS.some((start) => begins(bytes, ...start)))
    throw new Failure('picture-unknown', 'This is not a picture of a kind that is read: PNG, JPEG, GIF, BMP, WebP or TIFF.');
  try {
    return await opened(bytes).metadata();
  } catch (error) {
    throw /pixel limit|exceeds/i.test(wordsOf(error))
      ? new Failure('picture-too-large', `The picture has more than ${megapixels(PIXEL_LIMIT)} pixels. Make it smaller first.`)
      : damaged(error);
  }
}

/** @throws Failure `picture-unknown`, `picture-damaged`, `picture-too-large` */
async function facts(bytes: Uint8Array): Promise<PictureFacts> {
  if (isBmp(bytes)) {
    const { width, height, ppi } = bmpPixels(bytes, PIXEL_LIMIT, true);
    const plain = { turned: false, depth: 8, alpha: false, profile: null, plain: true, frames: 1 } as const;
    return { mediaType: 'image/bmp', width, height, ppi, ...plain };
  }
  const meta = await metadataOf(bytes);
  const mediaType = MEDIA_TYPES[meta.format ?? ''];
  if (!mediaType) throw new Failure('picture-unknown', `A picture of the kind ${meta.format} is not read.`);
  const { width, height } = meta.autoOrient;
  assertSize(width, height, PIXEL_LIMIT);
  if (meta.isProgressive && width * height > WHOLE_LIMIT)
    throw new Failure(
      'picture-too-large',
      `The picture has ${width} × ${height} pixels and is saved for being shown bit by bit, which takes all of it at once to open. Save it as a plain ${meta.format?.toUpperCase()} first.`,
    );
  const profile = meta.icc ? profileName(meta.icc) : null;
  return {
    mediaType,
    width,
    height,
    turned: (meta.orientation ?? 1) > 1,
    // Formats that say nothing of it are given 72 by the library.
    ppi: meta.density && (meta.density !== 72 || meta.format === 'tiff') ? meta.density : null,
    depth: meta.depth === 'ushort' || meta.depth === 'short' ? 16 : 8,
    alpha: meta.hasAlpha ?? false,
    profile,
    plain: (profile === null || /srgb/i.test(profile)) && ['srgb', 'b-w', 'rgb16', 'grey16'].includes(meta.space ?? ''),
    frames: meta.pages ?? 1,
  };
}

/** What a pipeline made as numbers of 8 or 16 bits; nothing is copied where it begins where such numbers may. */
function partsIn(data: Buffer, deep: boolean): Uint8Array | Uint16Array {
  if (!deep) return new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  const at = data.byteOffset % 2 ? Uint8Array.from(data) : data;
  return new Uint16Array(at.buffer, at.byteOffset, at.byteLength / 2);
}

/** @throws as `facts` */
async function pixels(bytes: Uint8Array, depth: 8 | 16): Promise<Pixels> {
  if (isBmp(bytes)) {
    const { width, height, data } = bmpPixels(bytes, WHOLE_LIMIT);
    const read = { width, height, data };
    return atDepth(read, depth);
  }
  const { width, height, plain, profile, depth: own } = await facts(bytes);
  assertSize(width, height, WHOLE_LIMIT);
  // The library spreads 8 bits over 16 so that white is not quite white.
  if (own === 8 && depth === 16) return atDepth(await pixels(bytes, 8), 16);
  try {
    const picture = opened(bytes, plain)
      .autoOrient()
      .toColourspace(depth === 16 ? 'rgb16' : 'srgb')
      .ensureAlpha();
    const { data, info } = await picture.raw({ depth: depth === 16 ? 'ushort' : 'uchar' }).toBuffer({ resolveWithObject: true });
    const made: Pixels = { width: info.width, height: info.height, data: partsIn(data, depth === 16) };
    // From 16 bits with a profile the library goes over to the wider space, and stays there.
    return profile !== null && !plain && own === 16 && depth === 16 ? restated(made, 'sRGB') : made;
  } catch (error) {
    throw damaged(error);
  }
}

/** @throws as `facts` */
async function rows(bytes: Uint8Array, depth: 8 | 16): Promise<Rows> {
  if (isBmp(bytes)) return heldRows(await pixels(bytes, depth));
  const { width, height, plain, profile, depth: own } = await facts(bytes);
  if (width * height <= limits.held) return heldRows(await pixels(bytes, depth));
  assertSize(width, height, PIXEL_LIMIT);
  try {
    const deep = depth === 16 && own === 16;
    const picture = opened(bytes, plain)
      .autoOrient()
      .toColourspace(deep ? 'rgb16' : 'srgb')
      .ensureAlpha();
    const laid = await laidByPipeline(picture, deep ? 16 : 8);
    if (deep && profile !== null && !plain) return laidByBand(laid, (band) => restated(band, 'sRGB'));
    // As for what is held: the library spreads 8 bits over 16 so that white is not quite white.
    return deep === (depth === 16) ? laid : madeRows(laid, (band) => atDepth(band, depth));
  } catch (error) {
    throw damaged(error);
  }
}

/** @throws as `facts` */
async function glance(bytes: Uint8Array, most: number): Promise<Pixels> {
  if (isBmp(bytes)) return shrunk(fromPixels(bmpPixels(bytes, WHOLE_LIMIT)), most);
  await facts(bytes);
  return shrunk(opened(bytes).autoOrient(), most);
}

async function shrunk(picture: Sharp, most: number): Promise<Pixels> {
  try {
    const small = picture.resize(most, most, { fit: 'inside', withoutEnlargement: true }).toColourspace('srgb').ensureAlpha();
    const { data, info } = await small.raw({ depth: 'uchar' }).toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, data: new Uint8Array(data) };
  } catch (error) {
    throw damaged(error);
  }
}

/** Pixels as the library takes them in. */
export const fromPixels = ({ width, height, data }: Pixels): Sharp =>
  // The library tells 8 from 16 bits by the kind of array.
  sharp(data as Uint8Array, { raw: { width, height, channels: 4 }, limitInputPixels: PIXEL_LIMIT });

/** @throws as `facts` */
async function raster(bytes: Uint8Array): Promise<ReadPicture> {
  const found = await facts(bytes);
  const read = await rows(bytes, found.depth);
  if (isBmp(bytes)) return { rows: read, facts: found, xmp: null };
  const { xmpAsString } = await opened(bytes).metadata();
  return { rows: read, facts: found, xmp: xmpAsString ?? null };
}

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
const laidDown = async (source: Rows): Promise<Rows> => (source.held ? source : laid(source));

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

const resize = (source: Rows, width: number, height: number): Promise<Rows> =>
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
function paint(drawing: Drawing, width: number, height: number): Promise<Rows> {
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
const drawSvg = async (document: string, width: number, height: number): Promise<Pixels> =>
  wholeOf(await drawnAt(Buffer.from(document), width, height));

const profileOf = (profile: ProfileName): 'p3' | 'srgb' => (profile === 'Display P3' ? 'p3' : 'srgb');

async function encode(source: Rows, encoding: Encoding): Promise<Uint8Array> {
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

async function png(source: Pixels): Promise<Uint8Array> {
  const wide = source.data instanceof Uint16Array;
  return fromPixels(source)
    .toColourspace(wide ? 'rgb16' : 'srgb')
    .png({ compressionLevel: 6 })
    .toBuffer();
}

/** What reads and makes pictures under Node.js. */
export const pictureEngine: PictureEngine = {
  facts,
  pixels,
  glance,
  rows,
  raster,
  laidDown,
  resize,
  paint,
  drawSvg,
  encode,
  withXmp,
  png,
};

import {
  Failure,
  type PictureFacts,
  type Pixels,
  type ReadPicture,
  type Rows,
  atDepth,
  begins,
  heldRows,
  madeRows,
} from '@inkwell-twin/core';
import sharp, { type Metadata, type Sharp } from 'sharp';
import { bmpPixels, isBmp } from './bmp';
import { PIXEL_LIMIT, WHOLE_LIMIT, limits } from './limits';
import { isUnscaled, unscaled } from './unscaled';
import { statedDensity } from '../formats/density';
import { restated } from './profiles';
import { fromPixels, partsIn } from './raw';
import { laidByBand, laidByPipeline } from './strips';
import { trueName } from './true-profile';
import { damaged, megapixels, wordsOf } from './words';

const MEDIA_TYPES: Readonly<Record<string, string>> = {
  png: 'image/png',
  jpeg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
  tiff: 'image/tiff',
};

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
  ['II+', 0],
  ['MM', 0, '+'],
];

async function metadataOf(bytes: Uint8Array): Promise<Metadata> {
  if (!STARTS.some((start) => begins(bytes, ...start)))
    throw new Failure('picture-unknown', 'This is not a picture of a kind that is read: PNG, JPEG, GIF, BMP, WebP or TIFF.');
  const otherwise = (): Failure =>
    new Failure(
      'picture-unknown',
      'Its colours are written in a way that is not read. Save it in red, green and blue, with 8 or 16 bits of each.',
    );
  try {
    const meta = await opened(bytes).metadata();
    // The library reads broken numbers of 16 bits as none.
    if (meta.depth === 'float' && /16/.test(meta.space ?? '')) throw otherwise();
    return meta;
  } catch (error) {
    if (error instanceof Failure) throw error;
    if (/samples out of range|bad labq/.test(wordsOf(error))) throw otherwise();
    throw /pixel limit|exceeds/i.test(wordsOf(error))
      ? new Failure('picture-too-large', `The picture has more than ${megapixels(PIXEL_LIMIT)} pixels. Make it smaller first.`)
      : damaged(error);
  }
}

/** @throws Failure `picture-unknown`, `picture-damaged`, `picture-too-large` */
export async function facts(bytes: Uint8Array): Promise<PictureFacts> {
  if (isBmp(bytes)) {
    const { width, height, ppi } = bmpPixels(bytes, PIXEL_LIMIT, true);
    const plain = {
      turned: false,
      stretch: 1,
      taken: [],
      depth: 8,
      alpha: false,
      profile: null,
      plain: true,
      frames: 1,
    } as const;
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
  const said = statedDensity(mediaType, bytes);
  const shape = {
    mediaType,
    width,
    height,
    turned: (meta.orientation ?? 1) > 1,
    // Formats that say nothing of it are given 72 by the library; it rounds what they say.
    ppi: said?.ppi ? (meta.density ?? said.ppi) : null,
    stretch: said ? (meta.autoOrient.width === meta.width ? said.stretch : 1 / said.stretch) : 1,
    alpha: meta.hasAlpha ?? false,
    frames: meta.pages ?? 1,
  };
  if (isUnscaled(meta)) {
    const { taken } = await unscaled(bytes, meta);
    return { ...shape, depth: 16, profile: null, plain: true, taken: [taken] };
  }
  const profile = meta.icc ? await trueName(meta.icc) : null;
  return {
    ...shape,
    taken: meta.space === 'cmyk' && !meta.icc ? ['four inks without a profile, taken as those of a usual press'] : [],
    depth: meta.depth === 'ushort' ? 16 : 8,
    profile,
    plain: (profile === null || profile === 'sRGB') && ['srgb', 'b-w', 'rgb16', 'grey16'].includes(meta.space ?? ''),
  };
}

/** Pixels of 16 bits of a file whose numbers don't say what is white; null for others. */
async function scaledOf(bytes: Uint8Array): Promise<Pixels | null> {
  const meta = await metadataOf(bytes);
  if (!isUnscaled(meta)) return null;
  const { pixels: found } = await unscaled(bytes, meta);
  if ((meta.orientation ?? 1) === 1) return found;
  const turned = fromPixels(found).withMetadata({ orientation: meta.orientation! }).tiff();
  return pixels(await turned.toBuffer(), 16);
}

/** @throws as `facts` */
export async function pixels(bytes: Uint8Array, depth: 8 | 16): Promise<Pixels> {
  if (isBmp(bytes)) {
    const { width, height, data } = bmpPixels(bytes, WHOLE_LIMIT);
    const read = { width, height, data };
    return atDepth(read, depth);
  }
  const { width, height, plain, profile, depth: own } = await facts(bytes);
  assertSize(width, height, WHOLE_LIMIT);
  const scaled = await scaledOf(bytes);
  if (scaled) return atDepth(scaled, depth);
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
export async function rows(bytes: Uint8Array, depth: 8 | 16): Promise<Rows> {
  if (isBmp(bytes)) return heldRows(await pixels(bytes, depth));
  const { width, height, plain, profile, depth: own } = await facts(bytes);
  if (width * height <= limits.held || (await scaledOf(bytes))) return heldRows(await pixels(bytes, depth));
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
export async function thumbnail(bytes: Uint8Array, most: number): Promise<Pixels> {
  if (isBmp(bytes)) return shrunk(fromPixels(bmpPixels(bytes, WHOLE_LIMIT)), most);
  await facts(bytes);
  const scaled = await scaledOf(bytes);
  return shrunk(scaled ? fromPixels(scaled) : opened(bytes).autoOrient(), most);
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

/** @throws as `facts` */
export async function raster(bytes: Uint8Array): Promise<ReadPicture> {
  const found = await facts(bytes);
  const read = await rows(bytes, found.depth);
  if (isBmp(bytes)) return { rows: read, facts: found, xmp: null };
  const { xmpAsString } = await opened(bytes).metadata();
  return { rows: read, facts: found, xmp: xmpAsString ?? null };
}

import {
  type Codec,
  type Declaration,
  type Encoding,
  Failure,
  type NotUnderstood,
  PROFILES,
  type PictureFacts,
  type Raster,
  Tally,
  descriptionIn,
  isDescribed,
  onlyFile,
  sealText,
} from '@inkwell-twin/core';
import { bringInPicture } from '../sources';
import { mendChecksums } from './png/chunks';
import { markInXmp, xmpOf } from './xmp';

/** A master takes those as they are meant; a copy never has any. */
const NOT_SQUARE = 'pixels that are not square';

/** What a file of a format says that the library does not read and that may show, in words. */
type Unread = (bytes: Uint8Array, facts: PictureFacts) => readonly string[];

function told(bytes: Uint8Array, facts: PictureFacts, unread: Unread): NotUnderstood[] {
  const tally = new Tally();
  for (const words of [...facts.taken, ...unread(bytes, facts)]) tally.add(words);
  const more = facts.frames - 1;
  return [...(more > 0 ? [{ kind: 'picture after the first', count: more, shows: true }] : []), ...tally.list()];
}

/** Reader and writer of a format of pixels: the library knows the formats, what differs is declared. */
export const pictureCodec = (declaration: Declaration, unread: Unread): Codec => ({
  declaration,
  write: async ({ leaves, described }, options, mark, { pictures }) => {
    const raster = leaves[0]!.body as Raster;
    const pixels = declaration.carries(options).raster?.pixels;
    if (typeof pixels !== 'object' || !pictures) throw new Failure('no-pictures', 'Pictures can’t be written here.');
    const encoding: Encoding = { ...pixels.encoding, ppi: raster.ppi!, alpha: raster.alpha };
    const packed = raster.packed ?? (await pictures.encode(raster.rows, encoding));
    return onlyFile(pictures.withXmp(packed, encoding.format, xmpOf(mark, described)));
  },
  seal: (files, says) => {
    sealText(files, says);
    if (declaration.mediaType === 'image/png') for (const { bytes } of files) mendChecksums(bytes);
    return files;
  },
  read: async (files, { options }, { pictures }) => {
    if (!pictures) throw new Failure('no-pictures', 'Pictures can’t be read here.');
    const { facts, xmp, rows } = await pictures.raster(files[0]!.bytes);
    const body: Raster = { rows, alpha: facts.alpha, depth: facts.depth, profile: facts.profile, ppi: facts.ppi };
    const notUnderstood = told(files[0]!.bytes, facts, unread);
    const mark = markInXmp(xmp);
    const described = isDescribed(options, mark) ? descriptionIn(xmp) : undefined;
    const leaves = [{ kind: 'raster' as const, key: '', label: '', body }];
    return { leaves, mark, notUnderstood, ...(described ? { described } : {}) };
  },
  stated: async (bytes, { pictures }) => {
    if (!pictures) return {};
    const { facts, rows } = await pictures.raster(bytes);
    const { profile } = facts;
    return { width: String(rows.width), ...(PROFILES.some((one) => one === profile) ? { profile } : {}) };
  },
  bringIn: async (bytes, name, services) => {
    const brought = await bringInPicture(bytes, name, services);
    const tally = new Tally();
    // Its board has the sides that its pixels have.
    for (const words of unread(bytes, await services!.pictures!.facts(bytes))) if (words !== NOT_SQUARE) tally.add(words);
    return { ...brought, notUnderstood: [...brought.notUnderstood, ...tally.list()] };
  },
});

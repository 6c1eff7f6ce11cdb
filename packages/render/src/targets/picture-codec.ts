import {
  type Codec,
  type Declaration,
  type Encoding,
  Failure,
  PROFILES,
  type Raster,
  onlyFile,
  sealText,
} from '@inkwell-twin/core';
import { bringInPicture } from '../sources';
import { mendChecksums } from './png/chunks';
import { markInXmp, xmpOf } from './xmp';

/** Reader and writer of a format of pixels: the library knows the formats, what differs is declared. */
export const pictureCodec = (declaration: Declaration): Codec => ({
  declaration,
  write: async ({ leaves }, options, mark, { pictures }) => {
    const raster = leaves[0]!.body as Raster;
    const pixels = declaration.carries(options).raster?.pixels;
    if (typeof pixels !== 'object' || !pictures) throw new Failure('no-pictures', 'Pictures can’t be written here.');
    const encoding: Encoding = { ...pixels.encoding, ppi: raster.ppi!, alpha: raster.alpha };
    const packed = raster.packed ?? (await pictures.encode(raster.rows, encoding));
    return onlyFile(pictures.withXmp(packed, encoding.format, xmpOf(mark)));
  },
  seal: (files, says) => {
    sealText(files, says);
    if (declaration.mediaType === 'image/png') for (const { bytes } of files) mendChecksums(bytes);
    return files;
  },
  read: async (files, _hints, { pictures }) => {
    if (!pictures) throw new Failure('no-pictures', 'Pictures can’t be read here.');
    const { facts, xmp, rows } = await pictures.raster(files[0]!.bytes);
    const body: Raster = { rows, alpha: facts.alpha, depth: facts.depth, profile: facts.profile, ppi: facts.ppi };
    const notUnderstood = facts.frames > 1 ? [{ kind: 'picture after the first', count: facts.frames - 1, shows: true }] : [];
    return { leaves: [{ kind: 'raster', key: '', label: '', body }], mark: markInXmp(xmp), notUnderstood };
  },
  stated: async (bytes, { pictures }) => {
    if (!pictures) return {};
    const { facts, rows } = await pictures.raster(bytes);
    const { profile } = facts;
    return { width: String(rows.width), ...(PROFILES.some((one) => one === profile) ? { profile } : {}) };
  },
  bringIn: bringInPicture,
});

import type { ResolvedBoard } from '../../evaluate/resolve';
import { resolveBoards } from '../../evaluate/boards/source';
import { FOOTPRINTS } from '../footprints';
import type { ContentKind } from '../../contracts/kind';
import { unpackObject } from '../../contracts/packing';
import { adaptRaster } from './adapt';
import { compareRasters } from './compare';
import { digestRaster } from './digest';
import { type RasterCarries, rasterFeatures } from './features';
import { packRaster } from './pack';
import type { Raster } from '../../contracts/raster';

/** Pixels. */
export const rasterKind: ContentKind<ResolvedBoard, Raster, RasterCarries> = {
  id: 'raster',
  words: 'Pixels',
  features: rasterFeatures,
  resolve: resolveBoards,
  footprint: FOOTPRINTS.get('raster')!,
  label: () => '',
  adapt: adaptRaster,
  digest: digestRaster,
  compare: compareRasters,
  pack: packRaster,
  unpack: unpackObject,
};

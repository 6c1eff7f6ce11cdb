import type { ResolvedBoard } from '../../evaluate/resolve';
import { resolveBoards } from '../../evaluate/boards/source';
import { declaration } from './index';
import type { ContentKind } from '../../contracts/kind';
import { unpackObject } from '../../contracts/packing';
import { adaptRaster } from './adapt';
import { compareRasters } from './compare';
import { digestRaster } from './digest';
import { type RasterCarries } from './features';
import { packRaster } from './pack';
import type { Raster } from '../../contracts/raster';
import { sampleRaster } from './sample';

/** Pixels. */
export const kind: ContentKind<ResolvedBoard, Raster, RasterCarries> = {
  ...declaration,
  resolve: resolveBoards,
  label: () => '',
  adapt: adaptRaster,
  digest: digestRaster,
  sample: sampleRaster,
  compare: compareRasters,
  pack: packRaster,
  unpack: unpackObject,
};

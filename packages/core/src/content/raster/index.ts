import type { KindDeclaration } from '../../contracts/kind';
import { footprintOfBoards } from '../../evaluate/boards/footprint';
import { rasterFeatures, rasterReading } from './features';

/** Pixels. */
export const declaration = {
  id: 'raster',
  words: 'Pixels',
  features: rasterFeatures,
  footprint: (master, scope, carries) => footprintOfBoards(master, scope, carries, rasterReading),
} satisfies KindDeclaration;

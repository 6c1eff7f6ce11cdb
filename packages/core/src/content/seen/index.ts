import type { KindDeclaration } from '../../contracts/kind';
import { declaration as raster } from '../raster';
import { footprintOfSeen } from './footprint';
import { seenFeatures } from './features';

/** Solids as they are seen from one side, for targets of pixels. A copy of one says pixels. */
export const declaration = {
  id: 'seen',
  words: 'Picture of a solid',
  of: 'solids',
  says: raster.id,
  features: seenFeatures,
  footprint: footprintOfSeen,
} satisfies KindDeclaration;

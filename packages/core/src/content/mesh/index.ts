import type { KindDeclaration } from '../../contracts/kind';
import { footprintOfSolids } from '../../evaluate/solids/footprint';
import { meshFeatures } from './features';

/** Solids: triangles, and what a kernel measures of them. */
export const declaration = {
  id: 'mesh',
  words: 'Solid',
  of: 'solids',
  features: meshFeatures,
  footprint: footprintOfSolids,
} satisfies KindDeclaration;

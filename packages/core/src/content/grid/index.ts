import type { KindDeclaration } from '../../contracts/kind';
import { footprintOfTables } from './footprint';
import { gridFeatures } from './features';

/** Tables: typed columns, formulas, rows. */
export const declaration = {
  id: 'grid',
  words: 'Table',
  of: 'tables',
  features: gridFeatures,
  footprint: footprintOfTables,
} satisfies KindDeclaration;

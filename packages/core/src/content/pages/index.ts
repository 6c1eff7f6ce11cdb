import type { KindDeclaration } from '../../contracts/kind';
import { declaration as drawing } from '../drawing';
import { footprintOfPages } from './footprint';
import { pageFeatures } from './features';

/** Texts laid out on pages, for targets that say sheets. A copy of them says drawings. */
export const declaration = {
  id: 'pages',
  words: 'Text on pages',
  of: 'texts',
  says: drawing.id,
  features: pageFeatures,
  footprint: footprintOfPages,
} satisfies KindDeclaration;

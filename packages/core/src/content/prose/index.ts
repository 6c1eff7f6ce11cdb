import type { KindDeclaration } from '../../contracts/kind';
import { footprintOfTexts } from './footprint';
import { proseFeatures } from './features';

/** Texts that flow: paragraphs, headings, lists, tables, pictures and notes. */
export const declaration = {
  id: 'prose',
  words: 'Text',
  of: 'texts',
  features: proseFeatures,
  footprint: footprintOfTexts,
} satisfies KindDeclaration;

import { type DrawingCarries, type DrawingHows, drawingFeatures } from '../drawing/features';
import type { CarriesOf, FeatureRow } from '../../contracts/kind';
import type { PageSetting } from './boards';
import type { Drawing } from '../../contracts/drawing';

declare module '../../contracts/leaf' {
  interface Kinds {
    pages: { body: Drawing; carries: PageCarries };
  }
}

/** What a target has to say of texts that it lays out on pages, besides what it says of drawings. */
export interface PageHows extends DrawingHows {
  flow: { readonly page: PageSetting };
  links: object;
}
export type PageCarries = CarriesOf<PageHows> & DrawingCarries;

/** The features of laid-out texts, one row each. */
export const pageFeatures: { readonly [F in keyof PageHows]: FeatureRow } = {
  ...drawingFeatures,
  flow: { aside: true, words: 'Flowing text', found: ['retyped', 'moved', 'missing', 'added', 'sheet missing', 'sheet added'] },
  links: { words: 'Links, languages and descriptions', found: [] },
};

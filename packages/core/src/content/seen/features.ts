import type { ViewName } from '../../document/solids/views';
import type { CarriesOf, FeatureRow } from '../../contracts/kind';
import { type RasterCarries, type RasterHows, rasterFeatures } from '../raster/features';
import type { Raster } from '../../contracts/raster';

declare module '../../contracts/leaf' {
  interface Kinds {
    seen: { body: Raster; carries: SeenCarries };
  }
}

/** What a target of pixels has to say of solids, besides what it says of boards. */
export interface SeenHows extends RasterHows {
  solids: { readonly view: ViewName };
}
export type SeenCarries = CarriesOf<SeenHows> & RasterCarries;

/** The features of pictures of solids, one row each. */
export const seenFeatures: { readonly [F in keyof SeenHows]: FeatureRow } = {
  ...rasterFeatures,
  solids: { aside: true, words: 'Solids', found: ['region changed', 'resampled'] },
};

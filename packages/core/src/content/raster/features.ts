import { itemKind } from '../../document/items';
import { isPattern } from '../../document/paint';
import type { Encoding } from '../../document/picture-encoding';
import type { BoardFeature, BoardReading } from '../../evaluate/boards/footprint';
import type { CarriesOf } from '../../contracts/kind';
import type { Raster } from '../../contracts/raster';

declare module '../../contracts/leaf' {
  interface Kinds {
    raster: { body: Raster; carries: RasterCarries };
  }
}

/** What a target has to say of a feature that it can't hold as it is. */
export interface RasterHows {
  /** How large. `ppi` 0: as dense as the sharpest picture on the board. `width` 0: as `ppi` makes it. */
  pixels: { readonly ppi: number; readonly width: number; readonly encoding: Omit<Encoding, 'ppi'> };
  /** `over`: what shows where something is see-through. */
  transparency: { readonly over: string };
  'colour profile': object;
  depth: object;
  density: object;
  compression: object;
}
export type RasterCarries = CarriesOf<RasterHows>;

/** The features of pixels, one row each. The first reads all that can be seen of a board. */
export const rasterFeatures: { readonly [F in keyof RasterHows]: BoardFeature } = {
  pixels: {
    words: 'All that is seen',
    found: ['region changed', 'shifted', 'resampled', 'cropped', 're-compressed', 'recoloured overall', 'picture changed'],
    always: true,
    aside: true,
    ordered: true,
    item: (item) => {
      const { id: _id, name: _name, layer: _layer, transform: _transform, ...seen } = item as Record<string, unknown>;
      return seen;
    },
    group: ({ opacity, blend, clip, mask }) => [opacity ?? 1, blend ?? 'normal', clip ?? null, mask?.kind ?? null],
    board: ({ width, height, background }) => [width, height, background],
    symbols: (item) => [
      ...('mask' in item && item.mask ? [item.mask.symbol] : []),
      ...('style' in item && !itemKind(item).paint
        ? [item.style.fill, item.style.stroke].flatMap((paint) => (isPattern(paint) ? [paint.symbol] : []))
        : []),
    ],
  },
  transparency: { words: 'Transparency', found: ['transparency lost'] },
  'colour profile': { words: 'Colour profile', found: ['profile dropped'] },
  depth: { words: 'Bits per colour', found: ['depth changed'] },
  density: { words: 'Density', found: ['density changed'] },
  compression: { words: 'Fine detail', found: [] },
};

/** How footprints of pixels read boards: all that is visible. */
export const rasterReading: BoardReading<RasterCarries> = { kind: 'raster', features: rasterFeatures, takes: () => true };

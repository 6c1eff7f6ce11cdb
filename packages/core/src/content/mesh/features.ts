import type { CarriesOf, FeatureRow } from '../kind';

/** How a target holds what it can't hold as it is. */
export interface MeshHows {
  /** How finely round surfaces become triangles: mm and degrees. Kept where the target holds them exactly. */
  shape: { readonly chord: number; readonly angle: number };
  features: object;
  colours: object;
  names: object;
}
export type MeshCarries = CarriesOf<MeshHows>;

const SHAPE = [
  ...(['unit changed', 'body missing', 'body added', 'hole missing', 'hole added', 'hole changed', 'hole moved'] as const),
  ...(['reshaped', 'resized', 'volume changed', 'opened', 'doubled', 'turned inside out'] as const),
];

/** What there is to say of a solid. */
export const meshFeatures: Readonly<Record<keyof MeshHows, FeatureRow>> = {
  shape: { words: 'Shape', found: SHAPE },
  features: { words: 'Features and parameters', found: [] },
  colours: { words: 'Colours', found: ['recoloured'], optional: true },
  names: { words: 'Names of solids', found: ['sheet renamed'], optional: true },
};

/** How finely exact solids are looked at and compared: two meshes of one surface are off by less than the tolerance. */
export const EXACT_FINENESS = { chord: 0.003, angle: 8, share: 3e-5 } as const;

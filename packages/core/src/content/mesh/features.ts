import type { CarriesOf, FeatureRow } from '../../contracts/kind';
import type { Mesh } from '../../contracts/mesh';

declare module '../../contracts/leaf' {
  interface Kinds {
    mesh: { body: Mesh; carries: MeshCarries };
  }
}

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

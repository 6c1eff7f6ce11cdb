import { counted } from '../../shared/words';
import type { ContentFace } from '../face';

/** A point in space, mm. */
export interface SolidPlace {
  readonly of: 'solid';
  readonly at: readonly [number, number, number];
}

/** Solids. */
export const face = {
  kind: 'mesh',
  match: async () => (await import('./solid-match')).SolidMatch,
  equal: (count, tolerance) => `${counted(count, 'triangle')} read back; the surfaces agree within ${tolerance} mm.`,
  place: ({ spot }): SolidPlace | undefined => spot && { of: 'solid', at: spot },
} satisfies ContentFace;

import * as z from 'zod';
import type { MeshCarries } from '../../content/mesh/features';
import { UNIT_NAMES, UPS } from '../../base/bytes/units';
import type { Options } from '../../contracts/declaration';

/** How finely round surfaces become triangles. */
export const finenessOptions = {
  chord: z.coerce
    .number()
    .min(0.001)
    .max(10)
    .default(0.05)
    .describe('Triangles are at most this far off the surface that they stand for')
    .meta({ unit: 'mm' }),
  angle: z.coerce
    .number()
    .min(1)
    .max(45)
    .default(12)
    .describe('Neighbouring triangles of a round surface turn by at most this')
    .meta({ unit: '°' }),
};
export const unitOption = {
  unit: z.enum(UNIT_NAMES).default('mm').describe('What one of its numbers is: the file itself does not say'),
};
export const upOption = { up: z.enum(UPS).default('z').describe('The axis that points up: machines take z, pictures y') };

/** What becomes of a solid as triangles. */
export function triangleCarries({ chord, angle }: Options, more: Pick<MeshCarries, 'colours' | 'names'>): { mesh: MeshCarries } {
  return {
    mesh: {
      shape: {
        outcome: 'approximated',
        words: `become triangles: at most ${Number(chord)} mm off, turned by at most ${Number(angle)}° from one to the next`,
        chord: Number(chord),
        angle: Number(angle),
      },
      features: { outcome: 'restated', words: 'arrive as the shape that they make' },
      ...more,
    },
  };
}

/** Comparing solids: what a machine that builds or cuts them can hold, mm. */
export const SOLID_TOLERANCE = 0.01;

import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';

/** Exact solids, for programs that go on constructing with them. */
export const stepDeclaration: Declaration = {
  id: 'step',
  label: 'Exact solids (STEP)',
  offered: 150,
  standard: 'ISO 10303-242, as text of ISO 10303-21',
  mediaType: 'model/step',
  writer: '1',
  options: z.strictObject({ unit: z.enum(['mm', 'inch']).default('mm').describe('The unit that it states') }),
  versions: null,
  use: () => 'delivery',
  extension: () => 'step',
  carries: () => ({
    mesh: {
      shape: 'kept',
      features: { outcome: 'restated', words: 'arrive as the shape that they make' },
      colours: 'kept',
      names: 'kept',
    },
  }),
  tolerance: { mesh: 0.01 },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: { signature: (head) => /^\ufeff?\s*ISO-10303-21\s*;/.test(new TextDecoder('latin1').decode(head)) },
};

import * as z from 'zod';
import { begins } from '../../base/bytes/begins';
import type { Declaration } from '../../contracts/declaration';
import { SOLID_TOLERANCE, finenessOptions, triangleCarries } from '../solids/options';

/** Solids for showing, in metres with y upwards as the format has it. */
export const gltfDeclaration: Declaration = {
  id: 'gltf',
  label: 'Solids for showing (glTF)',
  offered: 190,
  standard: 'glTF 2.0 (ISO/IEC 12113)',
  mediaType: 'model/gltf-binary',
  writer: '1',
  options: z.strictObject({
    encoding: z
      .enum(['binary', 'text'])
      .default('binary')
      .describe('One binary file (.glb), or text with the numbers inside (.gltf)'),
    ...finenessOptions,
  }),
  versions: null,
  use: () => 'review',
  extension: ({ encoding }) => (encoding === 'text' ? 'gltf' : 'glb'),
  carries: (options) => triangleCarries(options, { colours: 'kept', names: 'kept' }),
  tolerance: { mesh: SOLID_TOLERANCE },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: {
    signature: (head) => begins(head, 'glTF'),
    structure: (head) => /^\ufeff?\s*\{[\s\S]*"asset"\s*:/.test(new TextDecoder().decode(head)),
  },
};

import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';
import { SOLID_TOLERANCE, finenessOptions, triangleCarries } from '../solids/options';

/** How the format spells units. */
export const UNIT_WORDS = { mm: 'millimeter', cm: 'centimeter', m: 'meter', inch: 'inch', ft: 'foot' } as const;
/** The names that the standard gives its elements and its starting part. */
export const CORE = 'http://schemas.microsoft.com/3dmanufacturing/core/2015/02'; // term-guard: standard (3MF core 1.3, 1.2)
export const START = 'http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel'; // term-guard: standard (3MF core 1.3, 2.1.1)
export const MODEL = '3D/3dmodel.model';

/** Solids for machines that build in layers, with unit, names and colours. */
export const threeMfDeclaration: Declaration = {
  id: '3mf',
  label: 'Parts for building (3MF)',
  offered: 170,
  standard: '3MF core specification 1.3',
  mediaType: 'model/3mf',
  writer: '2',
  options: z.strictObject({
    ...finenessOptions,
    unit: z.enum(['mm', 'cm', 'inch']).default('mm').describe('The unit that it states'),
  }),
  versions: null,
  use: () => 'machine',
  extension: () => '3mf',
  carries: (options) => triangleCarries(options, { colours: 'kept', names: 'kept' }),
  tolerance: { mesh: SOLID_TOLERANCE },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: { structure: (_head, entries) => entries.some((name) => /^\/?3D\/.*\.model$/i.test(name)) },
};

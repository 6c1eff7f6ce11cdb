import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';
import { PROSE_KEPT } from '../texts/carries';

/** Texts for word processors. */
export const docxDeclaration: Declaration = {
  id: 'docx',
  label: 'Text document (DOCX)',
  offered: 130,
  standard: 'ECMA-376, transitional',
  mediaType: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  writer: '2',
  options: z.strictObject({
    paper: z.enum(['A4', 'A5', 'Letter']).default('A4').describe('Paper that it is laid out for'),
  }),
  versions: null,
  use: () => 'delivery',
  extension: () => 'docx',
  carries: () => ({ prose: PROSE_KEPT }),
  tolerance: { prose: 0 },
  holds: { leaves: 'one', files: () => 'one', mark: 'inside' },
  limits: {},
  // Programs number the main part, or call it otherwise.
  recognise: { structure: (_head, entries) => entries.some((name) => /^word\/[^/]+\.xml$/.test(name)) },
};

import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';
import { PROSE_KEPT } from '../texts/carries';

export const ODT_TYPE = 'application/vnd.oasis.opendocument.text';

/** Texts for word processors, by an open standard. */
export const odtDeclaration: Declaration = {
  id: 'odt',
  label: 'Text document (ODT)',
  offered: 120,
  standard: 'OpenDocument 1.2 (ISO/IEC 26300:2015) and 1.3 (OASIS)',
  mediaType: ODT_TYPE,
  writer: '2',
  options: z.strictObject({
    version: z.enum(['1.2', '1.3']).default('1.3').describe('Version of OpenDocument'),
    paper: z.enum(['A4', 'A5', 'Letter']).default('A4').describe('Paper that it is laid out for'),
  }),
  versions: { option: 'version', values: ['1.2', '1.3'] },
  use: ({ version }) => (version === '1.3' ? 'delivery' : 'older'),
  extension: () => 'odt',
  carries: () => ({ prose: PROSE_KEPT }),
  tolerance: { prose: 0 },
  holds: { leaves: 'one', files: () => 'one', mark: 'inside' },
  limits: {},
  // What it is stands at the head (ODF 1.3-2, 3.3), where a packer that knows nothing of it has not squeezed it.
  recognise: {
    structure: (head, entries) => {
      if (!entries.includes('content.xml')) return false;
      const said = /opendocument\.([a-z]+)/.exec(new TextDecoder('latin1').decode(head.subarray(0, 300)));
      return !said || said[1] === 'text';
    },
  },
};

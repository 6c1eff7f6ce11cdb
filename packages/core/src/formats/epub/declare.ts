import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';
import { PROSE_KEPT } from '../texts/carries';

export const EPUB_TYPE = 'application/epub+zip';

/** Texts for reading devices. */
export const epubDeclaration: Declaration = {
  id: 'epub',
  label: 'Book for reading devices (EPUB)',
  offered: 140,
  standard: 'EPUB 3.3',
  mediaType: EPUB_TYPE,
  writer: '2',
  options: z.strictObject({}),
  versions: null,
  use: () => 'delivery',
  extension: () => 'epub',
  carries: () => ({ prose: PROSE_KEPT }),
  tolerance: { prose: 0 },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: { structure: (_head, entries) => entries.includes('META-INF/container.xml') },
};

import type { ProseCarries } from '../../content/prose/features';

/** What formats that are made for texts carry: all of it, pictures as PNG or JPEG. */
export const PROSE_KEPT: ProseCarries = {
  words: 'kept',
  'line ends': 'kept',
  headings: 'kept',
  lists: 'kept',
  quotations: 'kept',
  emphasis: 'kept',
  links: 'kept',
  notes: 'kept',
  tables: 'kept',
  pictures: 'kept',
  descriptions: 'kept',
  sizes: 'kept',
  alignment: 'kept',
  breaks: 'kept',
  language: 'kept',
  names: 'kept',
};

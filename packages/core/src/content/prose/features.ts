import type { CarriesOf, FeatureRow } from '../../contracts/kind';
import type { ProseBody } from './prose';

declare module '../../contracts/leaf' {
  interface Kinds {
    prose: { body: ProseBody; carries: ProseCarries };
  }
}

/** What a target has to say of a feature that it can't hold as it is. */
export interface ProseHows {
  words: object;
  /** Ends of lines within paragraphs become paragraphs. */
  'line ends': object;
  headings: object;
  /** Signs and numbers stand at the head of the words. */
  lists: object;
  quotations: object;
  emphasis: object;
  /** What they lead to stands behind the words. */
  links: object;
  /** They stand at the end, with numbers. */
  notes: object;
  /** Rows become lines, with bars between their cells. */
  tables: object;
  pictures: object;
  /** Those of pictures. Restated: they stand in the picture's place. */
  descriptions: object;
  sizes: object;
  alignment: object;
  breaks: object;
  language: object;
  names: object;
}
export type ProseCarries = CarriesOf<ProseHows>;

/** The features of texts, one row each. */
export const proseFeatures: { readonly [F in keyof ProseHows]: FeatureRow } = {
  words: { words: 'Words', found: ['words changed', 'paragraph missing', 'paragraph added', 'paragraph moved'] },
  'line ends': { words: 'Ends of lines within paragraphs', found: [] },
  headings: { words: 'Headings', found: ['role changed'] },
  lists: { words: 'Lists', found: ['role changed'] },
  quotations: { words: 'Quotations', found: ['role changed'] },
  emphasis: { words: 'Emphasis', found: ['emphasis changed'], optional: true },
  links: { words: 'Links', found: ['link changed'], optional: true },
  notes: { words: 'Notes', found: ['words changed'], optional: true },
  tables: {
    words: 'Tables',
    found: ['words changed', 'row missing', 'row added', 'column missing', 'column added', 'role changed'],
  },
  pictures: { words: 'Pictures', found: ['picture changed', 'missing', 'added'], optional: true },
  descriptions: { words: 'Descriptions of pictures', found: ['description changed'] },
  sizes: { words: 'Sizes of pictures', found: ['resized'] },
  alignment: { words: 'Alignment', found: ['aligned otherwise'] },
  breaks: { words: 'Page breaks and lines across', found: ['paragraph missing', 'paragraph added'] },
  language: { words: 'Language', found: ['language changed'] },
  names: { words: 'Names of texts', found: ['sheet renamed'] },
};

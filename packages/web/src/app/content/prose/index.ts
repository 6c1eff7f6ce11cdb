import { counted } from '../../shared/words';
import type { ContentFace } from '../face';

/** A paragraph of a text. */
export interface ParagraphPlace {
  readonly of: 'paragraph';
  readonly block: string;
}

/** Texts. */
export const face = {
  kind: 'prose',
  match: async () => (await import('./prose-match')).ProseMatch,
  equal: (count) => `${counted(count, 'word')} read back, with their looks; each says what it should.`,
  place: ({ source }): ParagraphPlace | undefined => (source ? { of: 'paragraph', block: source } : undefined),
} satisfies ContentFace;

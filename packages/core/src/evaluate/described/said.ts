import type { Correction } from '../../document/corrections';
import type { Master } from '../../document/schema';

/** What is said of a master or of a picture of it, for people and for files outside. */
export interface Said {
  readonly keywords: readonly string[];
  readonly caption: string;
  readonly rights: string;
  /** Of a picture; not there where there is no single answer, and in what a file says where it has none. */
  readonly corrections?: readonly Correction[] | undefined;
}
export const SAID_FIELDS = ['keywords', 'caption', 'rights', 'corrections'] as const;
export type SaidField = (typeof SAID_FIELDS)[number];

// What XML can't hold, and the ends of lines that it reads otherwise, would come back as something else.
export const cleanText = (text: string): string =>
  text
    .replace(/\r\n?/g, '\n')
    .replace(
      /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g,
      '',
    )
    .trim();

/** What a master says of itself, as a file can say it too. */
export const saidOf = ({
  keywords = [],
  description,
  rights = '',
}: Pick<Master, 'keywords' | 'description' | 'rights'>): Said => ({
  keywords: [...new Set(keywords.map(cleanText).filter(Boolean))],
  caption: cleanText(description),
  rights: cleanText(rights),
});

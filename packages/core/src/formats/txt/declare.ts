import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';

/** Words alone, as every program reads them. */
export const txtDeclaration: Declaration = {
  id: 'txt',
  label: 'Plain text (TXT)',
  offered: 220,
  standard: 'UTF-8, RFC 3629',
  mediaType: 'text/plain',
  writer: '1',
  options: z.strictObject({
    lines: z
      .enum(['one a paragraph', 'broken'])
      .default('one a paragraph')
      .describe('Paragraphs as one long line each, or as lines that are broken at a width'),
    width: z
      .number()
      .int()
      .min(30)
      .max(200)
      .default(72)
      .describe('Letters up to which lines are broken')
      .meta({ unit: 'letters' }),
    ends: z.enum(['LF', 'CR LF']).default('LF').describe('What ends a line'),
    bom: z.boolean().default(false).describe('Begins with a mark of its encoding (UTF-8), which some programs ask for'),
  }),
  versions: null,
  use: () => 'data',
  extension: () => 'txt',
  carries: () => ({
    prose: {
      words: 'kept',
      'line ends': { outcome: 'restated', words: 'become ends of paragraphs' },
      headings: { outcome: 'restated', words: 'become lines like any other' },
      lists: { outcome: 'restated', words: 'begin with their sign or number, all at the same depth' },
      quotations: { outcome: 'restated', words: 'become paragraphs like any other' },
      emphasis: 'left out',
      links: { outcome: 'restated', words: 'stand behind their words, in brackets' },
      notes: { outcome: 'restated', words: 'stand at the end, with numbers' },
      tables: { outcome: 'restated', words: 'become a line for each row, with bars between cells' },
      pictures: 'left out',
      descriptions: { outcome: 'restated', words: 'stand in the place of their pictures' },
      sizes: 'left out',
      alignment: 'left out',
      breaks: 'left out',
      language: 'left out',
      names: 'left out',
    },
  }),
  tolerance: { prose: 0 },
  holds: { leaves: 'one', files: () => 'many', mark: 'sidecar' },
  limits: {},
  // Asked last: any text is one.
  recognise: {
    anything: (head) => {
      if (!head.length || /^\s*(<[!?a-z]|\{|%PDF|solid )/i.test(new TextDecoder().decode(head.subarray(0, 200)))) return false;
      if ((head[0] === 0xff && head[1] === 0xfe) || (head[0] === 0xfe && head[1] === 0xff)) return true;
      return head.every((byte) => byte >= 32 || (byte >= 8 && byte <= 13));
    },
  },
};

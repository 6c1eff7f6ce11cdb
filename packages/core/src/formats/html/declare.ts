import * as z from 'zod';
import { beginningText } from '../beginning';
import type { Declaration } from '../../contracts/declaration';
import { PROSE_KEPT } from '../texts/carries';

/** How a page begins, whole or in part. */
const BEGINS =
  /^<(?:!doctype\s+html|(?:html|head|body|title|meta|h[1-6]|p|div|article|section|main|ul|ol|dl|table|center|blockquote)[\s>])/i;

/** The first characters of a text after blanks and comments; each character is looked at once, however many there are. */
function beginning(text: string): string {
  let at = text.startsWith('\ufeff') ? 1 : 0;
  for (;;) {
    while (/\s/.test(text.charAt(at))) at++;
    if (!text.startsWith('<!--', at)) return text.slice(at, at + 40);
    const end = text.indexOf('-->', at + 4);
    if (end < 0) return '';
    at = end + 3;
  }
}

/** A page with tables and texts, for anyone with a browser. */
export const htmlDeclaration: Declaration = {
  id: 'html',
  label: 'Page (HTML)',
  offered: 110,
  standard: 'HTML Living Standard',
  mediaType: 'text/html',
  writer: '1',
  options: z.strictObject({
    values: z
      .enum(['in full', 'as shown'])
      .default('in full')
      .describe('Numbers are shown rounded; the page also keeps all their digits, or only those'),
  }),
  versions: null,
  use: () => 'delivery',
  extension: () => 'html',
  carries: ({ values }) => ({
    grid: {
      values:
        values === 'as shown'
          ? { outcome: 'approximated', words: 'are rounded to the digits that are shown', round: true }
          : 'kept',
      types: 'kept',
      units: 'kept',
      'shown digits': 'kept',
      formulas: { outcome: 'restated', words: 'arrive as their values' },
      summaries: { outcome: 'restated', words: 'arrive as their values' },
      'row order': 'kept',
      'column order': 'kept',
      names: 'kept',
      'words like formulas': 'kept',
    },
    prose: PROSE_KEPT,
  }),
  tolerance: { grid: 1e-9, prose: 0 },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: { structure: (head) => BEGINS.test(beginning(beginningText(head))) },
};

import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';

export const DELIMITERS = { comma: ',', semicolon: ';', tab: '\t', bar: '|' } as const;
export type Delimiter = keyof typeof DELIMITERS;
export const DECIMALS = { point: '.', comma: ',' } as const;

/** Lines that somebody wrote: sentences, with blanks after their commas. */
const isWritten = (lines: readonly string[]): boolean => {
  const commas = lines.reduce((sum, line) => sum + line.split(',').length - 1, 0);
  const spaced = lines.reduce((sum, line) => sum + line.split(/,[ ”’"]/).length - 1, 0);
  return spaced >= 0.9 * commas && lines.filter((line) => /[.!?:…”]\s*$/.test(line)).length >= 0.5 * lines.length;
};

/** Lines of cells, as most programs read them. */
export const csvDeclaration: Declaration = {
  id: 'csv',
  label: 'Comma-separated values (CSV)',
  offered: 200,
  standard: 'RFC 4180',
  mediaType: 'text/csv',
  writer: '1',
  options: z.strictObject({
    delimiter: z.enum(['comma', 'semicolon', 'tab']).default('comma').describe('What stands between cells'),
    decimal: z.enum(['point', 'comma']).default('point').describe('Decimal mark of numbers'),
    values: z
      .enum(['in full', 'as shown'])
      .default('in full')
      .describe('Numbers with all their digits, or with those that are shown'),
    units: z.enum(['in the heading', 'left out']).default('in the heading').describe('Units of columns'),
    guard: z
      .enum(['apostrophe', 'as they are'])
      .default('apostrophe')
      .describe('Words that begin with = + - @, which a spreadsheet would compute'),
    bom: z.boolean().default(false).describe('Begins with a mark of its encoding (UTF-8), which some programs ask for'),
  }),
  versions: null,
  use: () => 'data',
  extension: () => 'csv',
  carries: ({ values, units, guard }) => ({
    grid: {
      values:
        values === 'as shown'
          ? { outcome: 'approximated', words: 'are rounded to the digits that are shown', round: true }
          : 'kept',
      types: 'left out',
      units:
        units === 'in the heading'
          ? { outcome: 'restated', words: 'stand in the heading, in brackets', in: 'heading' }
          : 'left out',
      'shown digits': 'left out',
      formulas: 'left out',
      summaries: 'left out',
      'row order': 'kept',
      'column order': 'kept',
      names: 'left out',
      'words like formulas': guard === 'apostrophe' ? { outcome: 'restated', words: 'get an apostrophe before them' } : 'kept',
    },
  }),
  tolerance: { grid: 1e-9 },
  holds: { leaves: 'one', files: () => 'many', mark: 'sidecar' },
  limits: {},
  recognise: {
    shape: (head) => {
      if (head.includes(0)) return false;
      // Ends of lines within quotes end no row.
      const lines = new TextDecoder()
        .decode(head)
        .replace(/"[^"]*"/g, '')
        .split(/\r\n|\n|\r/)
        .slice(0, 40);
      const whole = head.length < 4096 ? lines : lines.slice(0, -1);
      // What stands before the heading is none of the table.
      const begins = whole.findIndex((line) => line.trim() && !/^\s*#|^"?sep=./i.test(line));
      const filled = whole.slice(Math.max(0, begins)).filter((line) => line.trim());
      if (filled.length < 2 || /^\s*[<{[]/.test(filled[0]!)) return false;
      return Object.values(DELIMITERS).some((delimiter) => {
        if (delimiter === ',' && isWritten(filled)) return false;
        const counts = filled.map((line) => line.split(delimiter).length);
        return counts[0]! > 1 && counts.filter((count) => count === counts[0]).length >= Math.max(2, 0.6 * counts.length);
      });
    },
  },
};

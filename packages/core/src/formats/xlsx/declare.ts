import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';

/** Dates before the first of March 1900 count otherwise in some programs (ECMA-376-1, 18.17.4.1): they are words. Days since 1970-01-01. */
const FIRST_DAY = -25_508;
/** Letters of a sheet's name; a sheet of summaries adds a word to it (ECMA-376-1, 18.2.19). */
const NAME = 31 - ' summary'.length;

/** Workbooks of spreadsheets. */
export const xlsxDeclaration: Declaration = {
  id: 'xlsx',
  label: 'Workbook (XLSX)',
  offered: 100,
  standard: 'ECMA-376, transitional',
  mediaType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  writer: '2',
  options: z.strictObject({
    values: z
      .enum(['in full', 'as shown'])
      .default('in full')
      .describe('Numbers with all their digits, or rounded to those that are shown'),
    units: z.enum(['in the heading', 'left out']).default('in the heading').describe('Units of columns'),
  }),
  versions: null,
  use: () => 'delivery',
  extension: () => 'xlsx',
  carries: ({ values, units }) => ({
    grid: {
      values:
        values === 'as shown'
          ? { outcome: 'approximated', words: 'are rounded to the digits that are shown', round: true }
          : 'kept',
      types: { outcome: 'restated', words: 'become text', as: { category: 'text' }, byCells: { firstDay: FIRST_DAY } },
      units:
        units === 'in the heading'
          ? { outcome: 'restated', words: 'stand in the heading, in brackets', in: 'heading' }
          : 'left out',
      'shown digits': 'kept',
      formulas: 'kept',
      summaries: 'kept',
      'row order': 'kept',
      'column order': 'kept',
      names: { outcome: 'restated', words: `are shortened to ${NAME} letters`, most: NAME, without: "[]:*?/\\'" },
      'words like formulas': 'kept',
    },
  }),
  tolerance: { grid: 1e-9 },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  // ECMA-376-1, 18.3.1.73 and 18.3.1.13, as all programs have it.
  limits: { rows: 1_048_576, columns: 16_384 },
  recognise: { structure: (_head, entries) => entries.some((name) => /^xl\/workbook\d*\.xml$/.test(name)) },
};

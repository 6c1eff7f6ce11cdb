import * as z from 'zod';
import type { Declaration } from '../declaration';

/** Letters of a sheet's name; a sheet of summaries adds a word to it (ECMA-376-1, 18.2.19). */
const NAME = 31 - ' summary'.length;

/** Workbooks of spreadsheets. */
export const xlsxDeclaration: Declaration = {
  id: 'xlsx',
  label: 'Workbook (XLSX)',
  standard: 'ECMA-376, transitional',
  mediaType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  writer: '1',
  options: z.strictObject({
    formulas: z.enum(['as formulas', 'as values']).default('as formulas').describe('Computed columns stay computed in the workbook, or arrive as values'),
    values: z.enum(['in full', 'as shown']).default('in full').describe('Numbers with all their digits, or rounded to those that are shown'),
    units: z.enum(['in the heading', 'left out']).default('in the heading').describe('Units of columns'),
    summaries: z.enum(['on a sheet', 'left out']).default('on a sheet').describe('Summaries on a sheet of their own'),
  }),
  versions: null,
  use: () => 'delivery',
  extension: () => 'xlsx',
  carries: ({ formulas, values, units, summaries }) => ({
    grid: {
      values: values === 'as shown' ? { outcome: 'approximated', words: 'are rounded to the digits that are shown', round: true } : 'kept',
      types: { outcome: 'restated', words: 'become text', as: { category: 'text' } },
      units: units === 'in the heading' ? { outcome: 'restated', words: 'stand in the heading, in brackets', in: 'heading' } : 'left out',
      'shown digits': 'kept',
      formulas: formulas === 'as formulas' ? 'kept' : { outcome: 'restated', words: 'arrive as their values' },
      summaries: summaries === 'on a sheet' ? 'kept' : 'left out',
      'row order': 'kept',
      'column order': 'kept',
      names: { outcome: 'restated', words: `are shortened to ${NAME} letters`, most: NAME, without: '[]:*?/\\\'' },
      'words like formulas': 'kept',
    },
  }),
  tolerance: { grid: 1e-9 },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: (_head, entries) => entries.includes('xl/workbook.xml'),
};

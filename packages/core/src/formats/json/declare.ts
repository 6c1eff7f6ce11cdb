import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';

/** Tables as programs read them, with all that is said of their columns. */
export const jsonDeclaration: Declaration = {
  id: 'json',
  label: 'Data (JSON)',
  offered: 210,
  standard: 'RFC 8259',
  mediaType: 'application/json',
  writer: '1',
  options: z.strictObject({
    rows: z
      .enum(['as lists', 'by name'])
      .default('as lists')
      .describe('Rows as lists in the order of the columns, or as objects by their names'),
  }),
  versions: null,
  use: () => 'data',
  extension: () => 'json',
  carries: () => ({
    grid: {
      values: 'kept',
      types: 'kept',
      units: 'kept',
      'shown digits': 'kept',
      formulas: 'kept',
      summaries: 'kept',
      'row order': 'kept',
      'column order': 'kept',
      names: 'kept',
      'words like formulas': 'kept',
    },
  }),
  tolerance: { grid: 1e-9 },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: {
    structure: (head) => /^\ufeff?\s*\{[\s\S]*"tables"\s*:\s*\[/.test(new TextDecoder().decode(head)),
    // Records and lists of other programs: whether there is a table in them is seen when they are read.
    shape: (head) => /^\ufeff?\s*(\[\s*[[{]|\{\s*"[^"]*"\s*:)/.test(new TextDecoder().decode(head)),
  },
};

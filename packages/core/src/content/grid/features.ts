import type { ColumnType } from '../../document/tables/schema';
import type { CarriesOf, FeatureRow } from '../../contracts/kind';
import type { Grid } from './grid';

declare module '../../contracts/leaf' {
  interface Kinds {
    grid: { body: Grid; carries: GridCarries };
  }
}

/** What a target has to say of a feature that it can't hold as it is. */
export interface GridHows {
  /** `round`: numbers are written with the digits that are shown. */
  values: { readonly round: true };
  /**
   * What kinds of columns become. `byCells`: the format says it cell by cell, so that a column is what most of its cells are, and dates
   * are numbers from `firstDay` on (days since 1970-01-01) and words before.
   */
  types: {
    readonly as: Readonly<Partial<Record<ColumnType, ColumnType>>>;
    readonly byCells?: { readonly firstDay: number };
  };
  /** They stand behind the name, in brackets. */
  units: { readonly in: 'heading' };
  'shown digits': object;
  formulas: object;
  summaries: object;
  'row order': object;
  'column order': object;
  /** Names of tables: at most so many letters, without these. */
  names: { readonly most: number; readonly without: string };
  /** Words that a spreadsheet would take for a formula. */
  'words like formulas': object;
}
export type GridCarries = CarriesOf<GridHows>;

/** The features of tables, one row each. */
export const gridFeatures: { readonly [F in keyof GridHows]: FeatureRow } = {
  values: {
    words: 'Values',
    found: ['value changed', 'digits lost', 'row missing', 'row added', 'column missing', 'column added', 'column renamed'],
  },
  types: { words: 'Kinds of columns', found: ['type changed'] },
  units: { words: 'Units', found: ['unit changed'] },
  'shown digits': { words: 'Digits shown', found: ['format changed'] },
  formulas: { words: 'Formulas', found: ['formula lost', 'formula changed'], optional: true },
  summaries: { words: 'Summaries', found: ['value changed', 'missing', 'added'], optional: true },
  'row order': { words: 'Order of rows', found: ['rows re-ordered'] },
  'column order': { words: 'Order of columns', found: ['columns re-ordered'] },
  names: { words: 'Names of tables', found: ['sheet renamed'] },
  'words like formulas': { words: 'Words that look like formulas', found: [] },
};

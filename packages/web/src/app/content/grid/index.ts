import type { Grid } from '@inkwell-twin/core/tables';
import { counted } from '../../shared/words';
import type { ContentFace } from '../face';

/** A cell of a table; column -1 is the row as a whole. */
export interface CellPlace {
  readonly of: 'cell';
  readonly row: number;
  readonly column: number;
}

/** Tables. Cells are numbered as the table of the sheet that is shown has them. */
export const face = {
  kind: 'grid',
  match: async () => (await import('./table-match')).TableMatch,
  equal: (count) => `${counted(count, 'cell')} read back; each says what it should.`,
  place: ({ masterEntries: [entry] }, { columns }: Grid, isHere): CellPlace | undefined => {
    if (entry === undefined || !columns.length || !isHere) return undefined;
    return { of: 'cell', row: Math.floor(entry / (columns.length + 1)) - 1, column: (entry % (columns.length + 1)) - 1 };
  },
} satisfies ContentFace;

import { type Scope, tablesOf } from '../../contracts/scope';
import type { Master } from '../../document/schema';
import { type Computed, computedTable } from '../../evaluate/tables/compute';
import { declaration } from './index';
import type { ContentKind } from '../../contracts/kind';
import { packObject, unpackObject } from '../../contracts/packing';
import { adaptGrid } from './adapt';
import { compareGrids } from './compare';
import { digestGrid } from './digest';
import { type GridCarries } from './features';
import type { Grid } from './grid';
import { sampleGrid } from './sample';

/** A name as a target spells it. */
function spelled(name: string, { names }: GridCarries): string {
  if (typeof names !== 'object') return names === 'left out' ? '' : name;
  const plain = [...name].map((letter) => (names.without.includes(letter) ? '-' : letter)).join('');
  return plain.slice(0, names.most).trim() || 'Table';
}

/** Tables: typed columns, formulas, rows. */
export const kind: ContentKind<Computed, Grid, GridCarries> = {
  ...declaration,
  resolve: (master: Master, scope: Scope) =>
    tablesOf(master, scope).map((table) => ({ key: table.id, label: table.name, source: computedTable(table) })),
  label: spelled,
  namedAlone: true,
  withoutLengths: true,
  adapt: adaptGrid,
  digest: digestGrid,
  sample: sampleGrid,
  compare: compareGrids,
  exceeds: ({ count, columns }, { rows: mostRows = Infinity, columns: mostColumns = Infinity }) =>
    count >= mostRows
      ? `${count} rows and a heading, and it holds ${mostRows}`
      : columns.length > mostColumns
        ? `${columns.length} columns, and it holds ${mostColumns}`
        : null,
  pack: packObject,
  unpack: unpackObject,
};

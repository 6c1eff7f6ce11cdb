import { digest } from '../../base/bytes/hasher';
import { type Scope, tablesIn } from '../../contracts/scope';
import { canonical, nodeHash } from '../../document/hash';
import type { Column, Master, Row, Summary, Table } from '../../document/schema';
import type { LeafPrint } from '../../contracts/kind';
import type { GridCarries } from './features';

/** What is read of columns and summaries. What is computed depends on formulas whether they arrive or their values do. */
function headsOf({ columns, summaries, key }: Table, carries: GridCarries): Map<string, Map<string, string>> {
  const kept = (feature: keyof GridCarries) => carries[feature] !== 'left out';
  const shown = kept('shown digits') || carries.values !== 'kept';
  const read = (one: Column | Summary) =>
    new Map([
      ['values', canonical([one.name, one.formula ?? null, 'type' in one ? [one.type, one.id === key] : null])],
      ...(kept('units') ? ([['units', one.unit ?? '']] as const) : []),
      ...(shown ? ([['shown digits', String(one.decimals ?? '')]] as const) : []),
    ]);
  return new Map(
    [...columns, ...(kept('summaries') ? summaries : summaries.filter(({ id }) => isNamed(id, columns)))].map((one) => [
      one.id,
      read(one),
    ]),
  );
}
/** Any summary may be named by a formula of a column. */
const isNamed = (_id: string, columns: readonly Column[]): boolean => columns.some(({ formula }) => formula !== undefined);

const rowsOf = new WeakMap<readonly Row[], string>();
/** What rows say, whatever is carried of it. */
function rowsHash(rows: readonly Row[]): string {
  let hash = rowsOf.get(rows);
  if (hash === undefined) rowsOf.set(rows, (hash = digest(rows.map(nodeHash).join(''))));
  return hash;
}

/** What copies depend on, table by table. */
export function footprintOfTables(master: Master, scope: Scope, carries: GridCarries): LeafPrint[] {
  return tablesIn(master, scope).tables.map((table) => {
    const heads = headsOf(table, carries);
    const name = carries.names === 'left out' ? '' : table.name;
    const words = [name, ...[...heads].map(([id, parts]) => `${id} ${[...parts].join(' ')}`), rowsHash(table.rows)];
    return {
      key: table.id,
      hash: digest(words.join('\n')).slice(0, 32),
      parts: () =>
        new Map<string, ReadonlyMap<string, string>>([
          [table.id, new Map([['names', name]])],
          ...heads,
          ...table.rows.map((row, i) => [row.id, new Map([['values', `${nodeHash(row)} ${i}`]])] as const),
        ]),
    };
  });
}

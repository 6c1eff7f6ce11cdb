import { DEFAULT_PATTERN, type Recipe } from '@inkwell-twin/core';
import type { Database, Queryable } from '../database/database';

/**
 * @param replaces whether its first copy takes the place of what stands under its name
 * @param series which variants it was asked for with
 */
export const addRecipe = (
  client: Queryable,
  master: string,
  label: string,
  recipe: Recipe,
  replaces = false,
  series: string | null = null,
): Promise<unknown> =>
  // Those of one transaction keep their order.
  client.query(
    `insert into recipe (id, master, label, target, options, scope, choices, pattern, replaces, row, series, created_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, clock_timestamp())`,
    [
      recipe.id,
      master,
      label,
      recipe.target,
      JSON.stringify(recipe.options),
      JSON.stringify(recipe.scope),
      JSON.stringify(recipe.choices),
      DEFAULT_PATTERN,
      replaces,
      recipe.row && JSON.stringify(recipe.row),
      series,
    ],
  );

/** Keeps what variants that are asked for together are called. */
export const addSeries = (
  client: Queryable,
  { id, master, label }: { readonly id: string; readonly master: string; readonly label: string },
): Promise<unknown> => client.query('insert into series (id, master, label) values ($1, $2, $3)', [id, master, label]);

/**
 * The variants of a table that are asked for already in just this way: row → what its copy is called.
 * @param recipe what is asked for, whatever its row
 */
export async function variantsAskedFor(
  database: Database,
  master: string,
  table: string,
  { target, options, scope, choices }: Recipe,
): Promise<ReadonlyMap<string, string>> {
  const rows = await database.rows<{ row: string; label: string }>(
    `select row->>'row' as row, label from recipe
      where master = $1 and withdrawn_at is null and row->>'table' = $2 and target = $3
        and options::jsonb = $4::jsonb and scope::jsonb = $5::jsonb and choices::jsonb = $6::jsonb`,
    [master, table, target, JSON.stringify(options), JSON.stringify(scope), JSON.stringify(choices)],
  );
  return new Map(rows.map(({ row, label }) => [row, label]));
}

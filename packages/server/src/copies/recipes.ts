import { DEFAULT_PATTERN, type Recipe } from '@inkwell-twin/core';
import type { Database, Queryable } from '../database/database';

/** How a copy is asked for, beside its recipe. */
interface Wish {
  /** Whether its first copy takes the place of what stands under its name. */
  readonly replaces?: boolean;
  /** Which variants it was asked for with. */
  readonly series?: string | null;
  /** What opens its copies; null where they are not locked. */
  readonly password?: string | null;
  /** Whether it is written again with each update. */
  readonly eachUpdate?: boolean;
}

export const addRecipe = (
  client: Queryable,
  master: string,
  label: string,
  recipe: Recipe,
  { replaces = false, series = null, password = null, eachUpdate = false }: Wish = {},
): Promise<unknown> =>
  // Those of one transaction keep their order.
  client.query(
    `insert into recipe (id, master, label, target, options, scope, choices, pattern, replaces, row, series, password, each_update, created_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, clock_timestamp())`,
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
      password,
      eachUpdate,
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

/**
 * Whether a copy is asked for already in just this way, whatever it is called.
 * @param orWas whether one counts, too, that was withdrawn
 */
export async function isAskedFor(
  client: Queryable,
  master: string,
  { target, options, scope, choices }: Recipe,
  orWas = false,
): Promise<boolean> {
  const { rowCount } = await client.query(
    `select from recipe
      where master = $1 and (withdrawn_at is null or $6) and row is null and target = $2
        and options::jsonb = $3::jsonb and scope::jsonb = $4::jsonb and choices::jsonb = $5::jsonb limit 1`,
    [master, target, JSON.stringify(options), JSON.stringify(scope), JSON.stringify(choices), orWas],
  );
  return (rowCount ?? 0) > 0;
}

/** What locks the next copy of a recipe; undefined where it is not locked. */
export async function passwordOf(client: Queryable, recipe: string): Promise<string | undefined> {
  const { rows } = await client.query<{ password: string | null }>('select password from recipe where id = $1', [recipe]);
  return rows[0]?.password ?? undefined;
}

/** What may open a file of a recipe: what its copies were locked with, the last first. */
export async function passwordsOf(client: Queryable, recipe: string): Promise<string[]> {
  const { rows } = await client.query<{ password: string }>(
    `select password from copy where recipe = $1 and password is not null group by password order by max(written_at) desc limit 8`,
    [recipe],
  );
  return rows.map(({ password }) => password);
}

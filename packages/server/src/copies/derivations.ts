import type { DerivationView } from '@inkwell-twin/api';
import { Failure, declarationOf } from '@inkwell-twin/core';
import type { Database, Queryable } from '../database/database';
import { type Jobs, aboutOf } from '../jobs/jobs';
import { QUEUES } from '../jobs/queues';
import { type CopyRow, recipeOfRow } from './rows';

interface DerivationRow extends Pick<
  CopyRow,
  'recipe' | 'label' | 'target' | 'options' | 'scope' | 'choices' | 'row' | 'series' | 'series_label'
> {
  readonly job: string | null;
  /** Whether it is the job of all of its series. */
  readonly of_series: boolean | null;
  readonly active: boolean | null;
  readonly ahead: number | null;
  readonly message: string | null;
}

/** Recipes of a master whose copy is being derived, waits for it, or could not be derived. */
const SELECT_DERIVATIONS = `
  with waiting as (
    select id, name, data->>'recipe' as recipe, data->>'series' as series, state = 'active' as active,
           case when state = 'active' then 0
                else row_number() over (partition by name, state = 'active' order by priority desc, created_on, id)::integer - 1 end as ahead
      from pgboss.job where name = any ($2) and state < 'completed')
  select recipe.id as recipe, recipe.label, recipe.target, recipe.options, recipe.scope, recipe.choices,
         recipe.row, recipe.series, series.label as series_label, waiting.id as job, waiting.recipe is null as of_series, waiting.active, waiting.ahead, notice.message
    from recipe
    left join series on series.id = recipe.series
    left join lateral (select * from waiting
       where waiting.recipe = recipe.id
          or waiting.series = recipe.series and not exists (select from copy where copy.recipe = recipe.id and copy.state = 'live')
       order by waiting.recipe is null, active desc, ahead limit 1) as waiting on true
    left join notice on notice.master = recipe.master and notice.about = 'derive ' || recipe.id
   where recipe.master = $1 and recipe.withdrawn_at is null
     and (waiting.id is not null or notice.message is not null
          or not exists (select from copy where copy.recipe = recipe.id and copy.state = 'live'))
   order by recipe.created_at, recipe.id`;

/** @returns what is under way, waits or failed, of one master; variants of one series that a job is on are one of them */
export async function derivationsOf(database: Database, master: string): Promise<DerivationView[]> {
  const rows = await database.rows<DerivationRow>(SELECT_DERIVATIONS, [master, [...QUEUES]]);
  const views = new Map<string, DerivationView>();
  for (const row of rows) {
    const declaration = declarationOf(row.target);
    // What its own job does, or what failed, is told by itself.
    const isOfSeries = row.series !== null && row.job !== null && row.of_series === true;
    const before = isOfSeries ? views.get(row.job!) : undefined;
    if (before) {
      before.left++;
      continue;
    }
    views.set(isOfSeries ? row.job! : row.recipe, {
      recipe: row.recipe,
      label: isOfSeries ? (row.series_label ?? row.label) : row.label,
      group: declaration.use(recipeOfRow(row).options),
      targetLabel: declaration.label,
      job: row.job ?? '',
      state: row.job === null ? 'failed' : row.active ? 'running' : 'waiting',
      ahead: row.ahead ?? 0,
      left: 1,
      message: row.job === null ? (row.message ?? 'It was not written.') : '',
    });
  }
  return [...views.values()];
}

interface LiveRecipe {
  readonly id: string;
  readonly master: string;
  readonly label: string;
}

async function liveRecipe(client: Queryable, id: string): Promise<LiveRecipe> {
  const { rows } = await client.query<LiveRecipe>('select id, master, label from recipe where id = $1 and withdrawn_at is null', [
    id,
  ]);
  if (!rows[0]) throw new Failure('not-found', 'This copy is not asked for any more: it was given up or withdrawn.');
  return rows[0];
}

/** Puts a recipe whose copy could not be derived back on the list of jobs. @throws Failure `not-found` */
export async function deriveRecipe(database: Database, jobs: Jobs, id: string): Promise<string> {
  const { master, label } = await liveRecipe(database, id);
  const job = await jobs.derive(master, id, label);
  await jobs.event({ kind: 'copies', master });
  return job;
}

/** Gives up a recipe that gave no copy. One that has one is withdrawn instead. @throws Failure `not-found`, `request-invalid` */
export async function removeRecipe(database: Database, jobs: Jobs, id: string): Promise<void> {
  const { master, label } = await liveRecipe(database, id);
  await database.transaction(async (client) => {
    await jobs.forgetRecipe(client, id);
    const { rowCount } = await client.query(
      'delete from recipe where id = $1 and not exists (select from copy where recipe = $1)',
      [id],
    );
    if (!rowCount) throw new Failure('request-invalid', `${label} has a copy on the shelf: withdraw that instead.`);
  });
  await jobs.notice(master, aboutOf({ kind: 'derive', master, recipe: id, label }), null);
  await jobs.event({ kind: 'copies', master });
}

/**
 * Derives all copies again that are behind. What somebody changed on the shelf is left as it is.
 * @param masters ids; null for all on the Desk
 * @returns how many are derived
 */
export async function deriveBehind(database: Database, jobs: Jobs, masters: readonly string[] | null): Promise<number> {
  const rows = await database.rows<{ recipe: string; master: string; label: string }>(
    `select recipe, master, label from copy_now
      where verdict = 'behind' and ($1::text[] is null or master = any ($1))
        and exists (select from master where master.id = copy_now.master and master.state = 'live')
      order by master, created_at, recipe`,
    [masters],
  );
  for (const { master, recipe, label } of rows) await jobs.derive(master, recipe, label);
  for (const master of new Set(rows.map((row) => row.master))) await jobs.event({ kind: 'copies', master });
  return rows.length;
}

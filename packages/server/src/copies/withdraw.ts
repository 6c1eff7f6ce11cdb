import { Failure, asFailure } from '@inkwell-twin/core';
import type { Database } from '../database/database';
import type { Jobs } from '../jobs/jobs';

/**
 * Withdraws a copy: it is on no list any more, its files on the shelf stay, and no job that was asked for before derives it
 * anew. Who looks at one that was derived again meanwhile means the recipe, and withdraws what there is of it now.
 * @param id of the copy, in whatever state
 * @throws Failure `not-found` where there is no such copy, or it was withdrawn already
 */
export async function withdraw(database: Database, jobs: Jobs, id: string): Promise<void> {
  const master = await database.transaction(async (client) => {
    // Waits for whoever is laying a copy of it down, and then finds that one too.
    const { rows } = await client.query<{ id: string; master: string }>(
      `update recipe set withdrawn_at = now()
        where id = (select recipe from copy where copy.id = $1) and withdrawn_at is null returning id, master`,
      [id],
    );
    const [recipe] = rows;
    if (!recipe) throw new Failure('not-found', 'This copy is not on the list any more: it was withdrawn.');
    await client.query("update copy set state = 'withdrawn' where recipe = $1 and state = 'live'", [recipe.id]);
    await jobs.forgetRecipe(client, recipe.id);
    return recipe.master;
  });
  await jobs.event({ kind: 'copies', master });
}

/**
 * Withdraws all variants of a series, and derives no more of them.
 * @returns the copies that were on the list
 * @throws Failure `not-found` where it has none
 */
export async function withdrawSeries(database: Database, jobs: Jobs, series: string): Promise<string[]> {
  const rows = await database.rows<{ id: string }>('select id from copy_now where series = $1 order by created_at', [series]);
  if (!rows.length) throw new Failure('not-found', 'There are no such variants on the list any more.');
  const withdrawn: string[] = [];
  for (const { id } of rows)
    try {
      await withdraw(database, jobs, id);
      withdrawn.push(id);
    } catch (error) {
      // Somebody else withdrew it meanwhile.
      if (asFailure(error).code !== 'not-found') throw error;
    }
  return withdrawn;
}

/**
 * Puts a copy that was withdrawn back on the list, with the file as it was recorded; a check tells how it stands now.
 * @param id of any copy of its recipe
 * @throws Failure `not-found` where it is on the list, or was never derived, `name-taken` where another copy has its name now
 */
export async function restoreCopy(database: Database, jobs: Jobs, id: string): Promise<void> {
  const { master, copy } = await database.transaction(async (client) => {
    const { rows } = await client.query<{ id: string; master: string }>(
      `update recipe set withdrawn_at = null
        where id = (select recipe from copy where copy.id = $1) and withdrawn_at is not null returning id, master`,
      [id],
    );
    const [recipe] = rows;
    if (!recipe) throw new Failure('not-found', 'This copy is on the list already, or there is none.');
    const { rows: others } = await client.query<{ label: string; file: string }>(
      `select recipe.label, other.file from copy other join recipe on recipe.id = other.recipe
        where other.state = 'live' and recipe.master = $1
          and other.file = (select file from copy where recipe = $2 and state = 'withdrawn' order by written_at desc limit 1)`,
      [recipe.master, recipe.id],
    );
    if (others[0])
      throw new Failure(
        'name-taken',
        `“${others[0].label}” stands at ${others[0].file} now. Withdraw it first; nothing was changed.`,
      );
    const { rows: back } = await client.query<{ id: string }>(
      `update copy set state = 'live'
        where id = (select id from copy where recipe = $1 and state = 'withdrawn' order by written_at desc limit 1) returning id`,
      [recipe.id],
    );
    return { master: recipe.master, copy: back[0]?.id };
  });
  if (copy) await jobs.check(master, [copy]);
  await jobs.event({ kind: 'copies', master });
}

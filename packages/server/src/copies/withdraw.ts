import { Failure } from '@inkwell-twin/core';
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

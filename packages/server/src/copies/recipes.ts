import { DEFAULT_PATTERN, type Recipe } from '@inkwell-twin/core';
import type { Queryable } from '../database/database';

export const addRecipe = (client: Queryable, master: string, label: string, recipe: Recipe): Promise<unknown> =>
  client.query(
    'insert into recipe (id, master, label, target, options, scope, choices, pattern) values ($1, $2, $3, $4, $5, $6, $7, $8)',
    [
      recipe.id,
      master,
      label,
      recipe.target,
      JSON.stringify(recipe.options),
      JSON.stringify(recipe.scope),
      JSON.stringify(recipe.choices),
      DEFAULT_PATTERN,
    ],
  );

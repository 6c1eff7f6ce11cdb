import { DEFAULT_PATTERN, type Recipe } from '@inkwell-twin/core';
import type { Queryable } from '../database/database';

/** @param replaces whether its first copy takes the place of what stands under its name */
export const addRecipe = (client: Queryable, master: string, label: string, recipe: Recipe, replaces = false): Promise<unknown> =>
  client.query(
    'insert into recipe (id, master, label, target, options, scope, choices, pattern, replaces) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)',
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
    ],
  );

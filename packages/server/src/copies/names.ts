import { DEFAULT_PATTERN, type Recipe, fileName } from '@inkwell-twin/core';
import type { Queryable } from '../database/database';

/** What the name of a copy is made of: rows of the master, no document. */
export interface NamedMaster {
  readonly id: string;
  readonly folder: string;
  readonly head: number;
  readonly owner: string;
  readonly boards: readonly { readonly id: string; readonly name: string }[];
}

export const SELECT_NAMED = 'select id, title, folder, head, owner, boards, objects from master where id = $1';

/** The name that a copy of this recipe would get at a revision, before looking at what is there. */
export function plainName(master: NamedMaster, recipe: Recipe, label: string, rev: number, pattern = DEFAULT_PATTERN): string {
  const { boards } = master;
  const found = boards.find(({ id, name }) => recipe.board === id || recipe.board === name);
  const board = boards.length > 1 ? ((recipe.board ? found : boards[0])?.name ?? '') : '';
  const parts = { title: label, board, rev, version: recipe.target.version(recipe.options), owner: master.owner };
  return fileName(pattern, parts, recipe.target.extension);
}

/** Names that live copies of a master have on record. */
export async function namesOnRecord(client: Queryable, master: string, exceptRecipe = ''): Promise<string[]> {
  const { rows } = await client.query<{ file: string }>(
    `select file from copy join recipe on recipe.id = copy.recipe
      where recipe.master = $1 and recipe.id <> $2 and copy.state = 'live'`,
    [master, exceptRecipe],
  );
  return rows.map(({ file }) => file);
}

import {
  type NamingRule,
  type ScopedParts,
  type Recipe,
  declarationOf,
  fileName,
  scopeInWords,
  versionIn,
} from '@inkwell-twin/core';
import type { Queryable } from '../database/database';

/** What the name of a copy is made of: rows of the master, no document. */
export interface NamedMaster {
  readonly id: string;
  readonly folder: string;
  readonly head: number;
  readonly owner: string;
  readonly parts: ScopedParts;
  /** When the revision was made that the copy is of. */
  readonly time: Date | string;
}

export const SELECT_NAMED = `select id, title, folder, head, owner, part_names as parts, objects,
   (select time from revision where revision.master = master.id and rev = head) as time from master where id = $1`;

/**
 * The name that a copy of this recipe would get at a revision, before looking at what is there.
 * @param naming how the house writes names
 */
export function plainName(
  master: NamedMaster,
  recipe: Recipe,
  label: string,
  rev: number,
  { rule, pattern }: { readonly rule: NamingRule; readonly pattern: string },
): string {
  const declaration = declarationOf(recipe.target);
  const version = versionIn(declaration, recipe.options);
  const date = new Date(master.time).toISOString().slice(0, 10);
  const parts = { title: label, board: scopeInWords(master.parts, recipe.scope), rev, version, owner: master.owner, date };
  return fileName(pattern, parts, declaration.extension(recipe.options), rule);
}

/** Names that live copies of a master have on record. */
export async function namesOnRecord(client: Queryable, master: string, exceptRecipe = ''): Promise<string[]> {
  const { rows } = await client.query<{ file: string }>(
    `select file from copy join recipe on recipe.id = copy.recipe
      where recipe.master = $1 and recipe.id <> $2 and copy.state = 'live'
     union all
     select copy_part.file from copy_part join copy on copy.id = copy_part.copy join recipe on recipe.id = copy.recipe
      where recipe.master = $1 and recipe.id <> $2 and copy.state = 'live'`,
    [master, exceptRecipe],
  );
  return rows.map(({ file }) => file);
}

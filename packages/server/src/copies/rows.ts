import { type Recipe, recipeOf } from '@inkwell-twin/core';

/** A live copy with its recipe and its latest check, as one row. */
export interface CopyRow {
  id: string;
  recipe: string;
  master: string;
  label: string;
  target: string;
  options: Record<string, string | number | boolean>;
  board: string;
  pattern: string;
  rev: number;
  file: string;
  sha256: string;
  size: string;
  says: string;
  footprint: string;
  folder: string;
  check_head: number | null;
  check_file: string | null;
  verdict: string | null;
  remark: string | null;
  proof: string | null;
  checked_at: Date | null;
  accepted_by: string | null;
  reason: string | null;
  accepted_at: Date | null;
  accepted_file: string | null;
  accepted_footprint: string | null;
}

export const SELECT_COPIES = `
  select copy.id, copy.recipe, recipe.master, recipe.label, recipe.target, recipe.options, recipe.board, recipe.pattern,
         copy.rev, copy.file, copy.sha256, copy.size, copy.says, copy.footprint, master.folder,
         last.head as check_head, last.file_sha256 as check_file, last.verdict, last.remark, last.proof, last.at as checked_at,
         acceptance.accepted_by, acceptance.reason, acceptance.at as accepted_at,
         acceptance.file_sha256 as accepted_file, acceptance.footprint as accepted_footprint
    from copy
    join recipe on recipe.id = copy.recipe
    join master on master.id = recipe.master
    left join acceptance on acceptance.copy = copy.id
    left join lateral (select * from match_check where match_check.copy = copy.id order by match_check.id desc limit 1) last on true
   where copy.state = 'live'`;

export const recipeOfRow = (row: Pick<CopyRow, 'recipe' | 'target' | 'options' | 'board'>): Recipe =>
  recipeOf(row.target, row.options, row.board, row.recipe);

export const dataOf = (recipe: Recipe) => ({
  id: recipe.id,
  target: recipe.target.id,
  options: recipe.options,
  board: recipe.board,
});

import type { CopyView } from '@inkwell-twin/api';
import { type Choice, type Recipe, type Scope, type VariantRow, declarationOf, recipeOf } from '@inkwell-twin/core';

/** A live copy with its recipe and how it stands, as one row of the view `copy_now`. */
export interface CopyRow {
  id: string;
  recipe: string;
  master: string;
  label: string;
  target: string;
  options: Record<string, string | number | boolean>;
  scope: Scope;
  choices: Choice[];
  row: VariantRow | null;
  series: string | null;
  series_label: string | null;
  locked: boolean;
  each_update: boolean;
  pattern: string;
  rev: number;
  file: string;
  sha256: string;
  parts: { part: string; file: string; sha256: string }[];
  size: string;
  says: string;
  footprint: string;
  folder: string;
  master_head: number;
  /** The revision that the next three speak of; null as long as nobody has looked. */
  head: number | null;
  footprint_now: string | null;
  until: number | null;
  ended_by: string | null;
  verdict: CopyView['verdict'];
  remark: string | null;
  proof: string | null;
  file_sha256: string | null;
  file_stamp: string | null;
  checked_at: Date | null;
  accepted_by: string | null;
  reason: string | null;
  accepted_at: Date | null;
}

/** Names of all files of a copy. */
export const namesOf = ({ file, parts }: Pick<CopyRow, 'file' | 'parts'>): string[] => [file, ...parts.map((one) => one.file)];

export const SELECT_COPIES = 'select * from copy_now';
export const IN_ORDER = 'order by master, created_at, recipe';

export const recipeOfRow = (row: Pick<CopyRow, 'recipe' | 'target' | 'options' | 'scope' | 'choices' | 'row'>): Recipe =>
  recipeOf(row.target, row.options, row.scope, row.recipe, row.choices, row.row);

/** A copy as it is shown: rows alone, no document. */
export function viewOfRow(row: CopyRow): CopyView {
  const { options } = recipeOfRow(row);
  const declaration = declarationOf(row.target);
  const known = row.verdict !== 'not checked';
  const isAccepted = row.verdict === 'accepted';
  return {
    id: row.id,
    recipe: row.recipe,
    label: row.label,
    group: declaration.use(options),
    target: row.target,
    targetLabel: declaration.label,
    options,
    scope: row.scope,
    choices: row.choices,
    row: row.row,
    series: row.series === null ? null : { id: row.series, label: row.series_label ?? '' },
    locked: row.locked,
    eachUpdate: row.each_update,
    file: row.file,
    parts: row.parts.map(({ file }) => file),
    size: Number(row.size),
    rev: row.rev,
    until: row.verdict === 'in step' ? row.master_head : (row.until ?? row.rev),
    endedBy: row.verdict === 'in step' ? null : row.ended_by,
    verdict: row.verdict,
    remark: known ? (row.remark ?? '') : '',
    proof: known ? (row.proof ?? '') : 'A check of this copy is under way.',
    checkedAt: row.checked_at?.toISOString() ?? null,
    accepted: isAccepted ? { by: row.accepted_by!, reason: row.reason!, at: row.accepted_at!.toISOString() } : null,
  };
}

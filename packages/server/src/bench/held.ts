import type { HeldFile } from '@inkwell-twin/api';
import type { Database } from '../database/database';
import type { CopyRow } from '../copies/rows';

type Held = NonNullable<HeldFile['copy']> & { readonly sha256: string };

interface Row extends Pick<CopyRow, 'recipe' | 'rev' | 'sha256'> {
  readonly copy: string;
  readonly master: string;
  readonly title: string;
  readonly head: number;
  readonly label: string;
  readonly live: string | null;
  readonly verdict: CopyRow['verdict'] | null;
  readonly ended_by: string | null;
  /** Whether it says what the copy of now says. */
  readonly same: boolean | null;
  /** Whether nothing that the copy of now carries has changed since. */
  readonly unchanged: boolean | null;
}

/** Copies by their bytes, the last of each first, with the copy that stands in their place now. */
const SELECT = `
  select distinct on (copy.sha256) copy.id as copy, copy.recipe, copy.rev, copy.sha256, recipe.master, recipe.label,
         master.title, master.head, live.id as live, live.verdict, live.ended_by, live.says = copy.says as same,
         live.footprint_now is not distinct from live.footprint as unchanged
    from copy
    join recipe on recipe.id = copy.recipe
    join master on master.id = recipe.master and master.state = 'live'
    left join copy_now live on live.recipe = copy.recipe
   where copy.sha256 = any ($1)
   order by copy.sha256, copy.written_at desc`;

/** How what a machine holds stands: its bytes are as they were written, whatever became of the file on the shelf. */
function standOf({ live, verdict, same, unchanged }: Row): Held['stands'] {
  if (!live || !verdict) return 'withdrawn';
  if (!same) return 'behind';
  if (verdict === 'in step' || verdict === 'accepted' || verdict === 'not checked') return verdict;
  return unchanged ? 'in step' : 'behind';
}

/** The copies that files of machines are, by the checksums of those. */
export async function copiesByBytes(database: Database, checksums: readonly string[]): Promise<Map<string, Held>> {
  const rows = checksums.length ? await database.rows<Row>(SELECT, [[...checksums]]) : [];
  return new Map(
    rows.map((row) => {
      const { copy, recipe, live, label, rev, master, title, head, sha256 } = row;
      const stands = standOf(row);
      const why = stands === 'behind' ? (row.ended_by ?? '') : '';
      return [sha256, { id: copy, recipe, now: live, label, rev, master, title, head, stands, why, sha256 }];
    }),
  );
}

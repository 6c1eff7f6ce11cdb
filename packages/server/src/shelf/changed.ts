import type { Engine } from '../compute/engine';
import { type CopyRow, namesOf } from '../copies/rows';

/** What a start has to look at again. */
export interface ChangedOnShelf {
  /** Copies whose file is another than when it was checked, by master. */
  readonly copies: readonly { readonly master: string; readonly ids: readonly string[] }[];
  /** Masters whose copies nobody has looked at since their head came. */
  readonly unknown: readonly string[];
  /** Masters whose native file is missing or of another revision. */
  readonly files: readonly string[];
  /** Masters whose native file is another than the one that was written. */
  readonly outside: readonly string[];
  readonly pictures: readonly string[];
}

/** Compares the shelf with the records by size, time and number of each file, without reading any. */
export async function changedOnShelf({ database, shelf }: Engine): Promise<ChangedOnShelf> {
  const rows = await database.rows<Pick<CopyRow, 'id' | 'master' | 'folder' | 'file' | 'parts'> & { file_stamp: string }>(
    `select copy_now.id, copy_now.master, copy_now.folder, file, parts, coalesce(copy_now.file_stamp, '') as file_stamp
       from copy_now join master on master.id = copy_now.master and master.state = 'live' order by master`,
  );
  const stamp = (folder: string, ...files: string[]): string => {
    try {
      return shelf.stamps(folder, files);
    } catch {
      return 'not to be reached';
    }
  };
  const changed = new Map<string, string[]>();
  for (const row of rows)
    if (stamp(row.folder, ...namesOf(row)) !== row.file_stamp)
      changed.set(row.master, [...(changed.get(row.master) ?? []), row.id]);
  const unknown = await database.rows<{ master: string }>(
    "select distinct master from copy_now where verdict = 'not checked' and master in (select id from master where state = 'live')",
  );
  const masters = await database.rows<{
    id: string;
    folder: string;
    file_sha256: string | null;
    file_stamp: string | null;
    behind: boolean;
    untouched: boolean;
    undrawn: boolean;
  }>(
    `select master.id, folder, file_sha256, file_stamp, (file_rev is distinct from head and (older is null or head > 1)) as behind, (older is not null and head = 1) as untouched, picture.rev is distinct from head as undrawn
       from master left join picture on picture.master = master.id where state = 'live' order by master.id`,
  );
  return {
    copies: [...changed].map(([master, ids]) => ({ master, ids })),
    unknown: unknown.map(({ master }) => master),
    files: masters
      .filter(({ folder, behind, untouched }) => behind || (!untouched && !stamp(folder, shelf.masterFile(folder))))
      .map(({ id }) => id),
    outside: masters
      .filter((one) => one.file_sha256 !== null && stamp(one.folder, shelf.masterFile(one.folder)) !== one.file_stamp)
      .map(({ id }) => id),
    pictures: masters.filter(({ undrawn }) => undrawn).map(({ id }) => id),
  };
}

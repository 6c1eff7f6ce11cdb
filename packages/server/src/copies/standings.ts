import { footprintHash } from '@inkwell-twin/core';
import type { Queryable } from '../database/database';
import type { LoadedMaster } from '../masters/store';
import { type CopyRow, recipeOfRow } from './rows';
import { spanOf } from './spans';

/** What changes of a copy's standing when its master gets a revision, found from footprints alone. */
interface Standing {
  readonly head: number;
  readonly footprint: string;
  readonly until: number;
  readonly endedBy: string | null;
}

/**
 * How a copy stands at the head of its master. Where it was known at the revision before, only the step from there is
 * looked at.
 */
export function standingAt(master: LoadedMaster, row: CopyRow): Standing {
  const recipe = recipeOfRow(row);
  const { rev: head, master: document } = master.head;
  const footprint = footprintHash(document, recipe);
  // A span that ended stays ended; one that holds, and whose footprint is still the one it was made at, holds on.
  if (row.head !== null && row.until !== null && row.until < row.head && row.ended_by !== null)
    return { head, footprint, until: row.until, endedBy: row.ended_by };
  if (row.head !== null && row.until === row.head && row.head >= head - 1 && footprint === row.footprint)
    return { head, footprint, until: head, endedBy: null };
  const { until, endedBy } = spanOf(master, recipe, row.rev);
  return { head, footprint, until, endedBy };
}

export async function keepStandings(client: Queryable, standings: readonly (readonly [copy: string, Standing])[]): Promise<void> {
  if (!standings.length) return;
  const column = <T>(value: (standing: Standing) => T): T[] => standings.map(([, standing]) => value(standing));
  // Only forwards: a slower process may come with what it found at an older revision.
  await client.query(
    `insert into standing (copy, head, footprint, until, ended_by)
     select * from unnest($1::text[], $2::integer[], $3::text[], $4::integer[], $5::text[])
     on conflict (copy) do update
       set head = excluded.head, footprint = excluded.footprint, until = excluded.until, ended_by = excluded.ended_by
     where standing.head <= excluded.head`,
    [
      standings.map(([copy]) => copy),
      column(({ head }) => head),
      column(({ footprint }) => footprint),
      column(({ until }) => until),
      column(({ endedBy }) => endedBy),
    ],
  );
  // What was accepted before footprints were made this way counts for the revision that it was accepted at (migration 004).
  await client.query(
    `update acceptance set footprint = standing.footprint from standing
      where standing.copy = acceptance.copy and acceptance.copy = any ($1) and acceptance.footprint = '@' || standing.head`,
    [standings.map(([copy]) => copy)],
  );
}

import { Failure } from '@inkwell-twin/core';
import { sweepBlobs } from '../blobs/blobs';
import type { Database } from '../database/database';

/** Days for which what was thrown away can be brought back. */
export const DAYS = 30;

/** Takes a master off the Desk; for 30 days everything of it can be brought back. Its files on the shelf stay. */
export async function throwAway(database: Database, master: string): Promise<void> {
  const { rowCount } = await database.query(
    "update master set state = 'thrown', thrown_at = now() where id = $1 and state <> 'thrown'",
    [master],
  );
  if (!rowCount) throw new Failure('not-found', 'There is no such master on this Desk, or it was thrown away already.');
}

/** Deletes for good what was thrown away more than 30 days ago. @returns how many that were */
export async function clearThrown(database: Database): Promise<number> {
  return database.transaction(async (client) => {
    const { rowCount } = await client.query(
      `delete from master where state = 'thrown' and thrown_at < now() - make_interval(days => ${DAYS})`,
    );
    if (rowCount) await sweepBlobs(client);
    return rowCount ?? 0;
  });
}

import { type StandingFile, VerdictName } from '@inkwell-twin/api';
import { declarationOf } from '@inkwell-twin/core';
import type { Database, Queryable } from '../database/database';
import type { NamedMaster } from './names';

/** Media types that browsers show as a picture. */
const SHOWN: readonly string[] = ['image/svg+xml', 'image/png', 'image/jpeg', 'image/webp'];
/** Whether browsers show copies of a target as a picture. */
export const isShown = (target: string): boolean => SHOWN.includes(declarationOf(target).mediaType);

/**
 * What stands where a copy of a master would go.
 * @param onDisk its size and time, where there is a file
 * @returns null where nothing does
 */
export async function standingFile(
  database: Database,
  { id }: Pick<NamedMaster, 'id'>,
  file: string,
  onDisk: { readonly size: number; readonly time: string } | null,
): Promise<StandingFile | null> {
  const [copy] = await database.rows<{ id: string; label: string; rev: number; size: number; verdict: string; target: string }>(
    'select id, label, rev, size, verdict, target from copy_now where master = $1 and file = $2',
    [id, file],
  );
  if (!copy && !onDisk) return null;
  return {
    size: onDisk?.size ?? copy!.size,
    time: onDisk?.time ?? '',
    copy: copy
      ? {
          id: copy.id,
          label: copy.label,
          rev: copy.rev,
          verdict: VerdictName.parse(copy.verdict),
          picture: isShown(copy.target) ? `/api/copies/${copy.id}/picture` : null,
        }
      : null,
  };
}

/**
 * Withdraws the copy that gives its name up for another, in the transaction that lays that one down. Its bytes stay on record.
 * @returns the files that were written for it, by SHA-256
 */
export async function giveWay(client: Queryable, master: string, file: string): Promise<{ file: string; sha256: string }[]> {
  const { rows } = await client.query<{ id: string; recipe: string; sha256: string; parts: { file: string; sha256: string }[] }>(
    'select id, recipe, sha256, parts from copy_now where master = $1 and file = $2',
    [master, file],
  );
  const [copy] = rows;
  if (!copy) return [];
  await client.query('update recipe set withdrawn_at = now() where id = $1', [copy.recipe]);
  await client.query("update copy set state = 'withdrawn' where id = $1", [copy.id]);
  return [{ file, sha256: copy.sha256 }, ...copy.parts];
}

import type { Request } from 'express';
import { PERSON_HEADER, type RevisionView } from '@inkwell-twin/api';
import type { Database } from '../database/database';

export interface RevisionRow {
  rev: number;
  time: Date;
  author: string;
  message: string;
  name: string;
}

export const viewOfRevision = ({ rev, time, author, message, name }: RevisionRow): RevisionView => ({
  rev,
  time: time.toISOString(),
  author,
  message,
  name,
});

/** Who asks, where that only decides what is shown as one's own. */
export const optionalPerson = ({ headers }: Request): string => String(headers[PERSON_HEADER] ?? '').slice(0, 64);

/** How many changes one has in one's own draft of each master, and who else has some. */
export async function draftsOf(
  database: Database,
  masters: readonly string[],
  person: string,
): Promise<Map<string, { draftChanges: number; others: string[] }>> {
  const rows = await database.rows<{ master: string; person: string; name: string; position: number }>(
    'select master, person, name, position from draft where master = any ($1) and position > 0 order by updated_at desc',
    [masters],
  );
  const found = new Map(masters.map((id) => [id, { draftChanges: 0, others: [] as string[] }]));
  for (const row of rows) {
    const one = found.get(row.master)!;
    if (row.person === person) one.draftChanges = row.position;
    else if (row.person === '') one.draftChanges ||= row.position;
    else one.others.push(row.name || 'someone');
  }
  return found;
}

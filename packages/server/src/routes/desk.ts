import type { Router } from 'express';
import { type AnswerOf, DESK_PAGE, type DeskRow, type NoticeView, type Summary } from '@inkwell-twin/api';
import { Failure } from '@inkwell-twin/core';
import { type CopyRow, IN_ORDER, SELECT_COPIES, viewOfRow } from '../copies/rows';
import type { Database } from '../database/database';
import type { Workshop } from '../workshop';
import { on } from './handle';
import { type RevisionRow, draftsOf, optionalPerson, viewOfRevision } from './rows';

interface MasterRow {
  id: string;
  title: string;
  owner: string;
  folder: string;
  cursor: string;
  picture: number | null;
}

const SELECT = `select master.id, title, owner, folder, to_char(created_at at time zone 'utc', 'YYYYMMDDHH24MISSUS') || ' ' || master.id as cursor,
                       picture.rev as picture
                  from master left join picture on picture.master = master.id`;

/** Rows of the Desk: a fixed number of questions, however many masters. */
async function rowsOf(database: Database, masters: readonly MasterRow[], person: string): Promise<DeskRow[]> {
  const ids = masters.map(({ id }) => id);
  const [revisions, copies, drafts] = await Promise.all([
    database.rows<RevisionRow & { master: string }>(
      'select master, rev, time, author, message from revision where master = any ($1) order by master, rev',
      [ids],
    ),
    database.rows<CopyRow>(`${SELECT_COPIES} where master = any ($1) ${IN_ORDER}`, [ids]),
    draftsOf(database, ids, person),
  ]);
  const byMaster = <T extends { master: string }>(rows: readonly T[]): Map<string, T[]> => {
    const found = new Map<string, T[]>();
    for (const row of rows) {
      const list = found.get(row.master);
      if (list) list.push(row);
      else found.set(row.master, [row]);
    }
    return found;
  };
  const [revisionsOf, copiesOf] = [byMaster(revisions), byMaster(copies)];
  return masters.map(({ id, title, owner, folder, cursor, picture }) => ({
    id,
    cursor,
    title,
    owner,
    folder,
    revisions: (revisionsOf.get(id) ?? []).map(viewOfRevision),
    copies: (copiesOf.get(id) ?? []).map(viewOfRow),
    ...drafts.get(id)!,
    picture: picture === null ? null : `/api/masters/${encodeURIComponent(id)}/picture.png?rev=${picture}`,
  }));
}

/** Troubles of live masters by verdict: how many, and the one that has been there longest. Counted by master first, so that nothing large is sorted. */
const ATTENTION = `
  with found as (
    select verdict, master, count(*)::integer as copies, min(created_at) as since from copy_now
     where verdict not in ('in step', 'accepted', 'not checked')
       and exists (select from master where master.id = copy_now.master and master.state = 'live')
     group by verdict, master),
  counted as (
    select verdict, sum(copies)::integer as copies, count(*)::integer as masters, (array_agg(master order by since, master))[1] as master
      from found group by verdict)
  select counted.*, master.title, first.id as copy, first.label
    from counted join master on master.id = counted.master
    cross join lateral (select id, label from copy_now where copy_now.master = counted.master and copy_now.verdict = counted.verdict
                         order by created_at, recipe limit 1) as first`;

async function attention(database: Database): Promise<AnswerOf<'desk'>['attention']> {
  const rows = await database.rows<{
    verdict: CopyRow['verdict'];
    copies: number;
    masters: number;
    master: string;
    title: string;
    copy: string;
    label: string;
  }>(ATTENTION);
  return rows.map(({ verdict, copies, masters, master, title, copy, label }) => ({
    verdict,
    copies,
    masters,
    first: { master, title, copy, label },
  }));
}

export async function noticesOf(database: Database, master: string | null): Promise<NoticeView[]> {
  const rows = await database.rows<{ id: string; master: string; title: string; message: string; at: Date }>(
    `select notice.id::text, notice.master, master.title, message, at from notice join master on master.id = notice.master
      where ($1::text is null or notice.master = $1) order by at desc limit 20`,
    [master],
  );
  return rows.map(({ at, ...rest }) => ({ ...rest, at: at.toISOString() }));
}

/** What the Desk says above its rows, asked over everything there is. */
export async function summaryOf(database: Database): Promise<Summary> {
  const [counts, needs, notices] = await Promise.all([
    database.rows<{ total: number; aside: number }>(
      "select count(*) filter (where state = 'live')::integer as total, count(*) filter (where state = 'aside')::integer as aside from master",
    ),
    attention(database),
    noticesOf(database, null),
  ]);
  return { ...counts[0]!, attention: needs, notices };
}

const text = (value: unknown): string => (typeof value === 'string' ? value.slice(0, 200) : '');

export function deskRoutes(router: Router, { database, shelf, summary }: Workshop): void {
  on(router, 'desk', async ({ request }) => {
    const [after, find, state] = [text(request.query['after']), text(request.query['find']), text(request.query['state'])];
    if (state && state !== 'aside' && state !== 'live')
      throw new Failure('request-invalid', 'The state is either live or aside.');
    const [time = '', ...rest] = after.split(' ');
    if (after && !/^\d{20}$/.test(time)) throw new Failure('request-invalid', '“after” is the cursor of a row.');
    const [all, masters] = await Promise.all([
      summary.get(),
      database.rows<MasterRow>(
        `${SELECT}
          where state = $1
            and ($2 = '' or (created_at, master.id) > (to_timestamp($2, 'YYYYMMDDHH24MISSUS')::timestamp at time zone 'utc', $3))
            and ($4 = '' or position(lower($4) in lower(title || ' ' || owner)) > 0)
          order by created_at, master.id limit $5`,
        [state || 'live', after ? time : '', rest.join(' '), find, DESK_PAGE + 1],
      ),
    ]);
    const page = masters.slice(0, DESK_PAGE);
    return {
      ...all,
      masters: await rowsOf(database, page, optionalPerson(request)),
      next: masters.length > DESK_PAGE ? page.at(-1)!.cursor : null,
      shelf: shelf.root,
    };
  });
  on(router, 'summary', () => summary.get());

  on(router, 'deskRow', async ({ params, request }) => {
    const masters = await database.rows<MasterRow>(`${SELECT} where master.id = $1`, [params['id']]);
    const [row] = await rowsOf(database, masters, optionalPerson(request));
    if (!row) throw new Failure('not-found', 'There is no such master on this Desk.');
    return row;
  });

  on(router, 'dismiss', async ({ params }) => {
    await database.query('delete from notice where id::text = $1', [params['id']]);
    summary.forget();
    return { done: true as const };
  });
}

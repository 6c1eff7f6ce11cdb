import type { Router } from 'express';
import { type AnswerOf, DESK_PAGE, type DeskRow, type NoticeView, type Summary } from '@inkwell-twin/api';
import { Failure } from '@inkwell-twin/core';
import { type CopyRow, IN_ORDER, SELECT_COPIES, viewOfRow } from '../copies/rows';
import type { Database } from '../database/database';
import type { Workshop } from '../workshop';
import { type MasterRow, askDesk, cursorOfRow, oneOnDesk } from './desk-order';
import { on } from './handle';
import { type RevisionRow, draftsOf, optionalPerson, viewOfRevision } from './rows';

/** Rows of the Desk: a fixed number of questions, however many masters. */
async function rowsOf(database: Database, masters: readonly MasterRow[], person: string): Promise<DeskRow[]> {
  const ids = masters.map(({ id }) => id);
  const [revisions, copies, drafts] = await Promise.all([
    database.rows<RevisionRow & { master: string }>(
      'select master, rev, time, author, message, name from revision where master = any ($1) order by master, rev',
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
  return masters.map(({ id, title, owner, folder, keywords, description, days_left, picture, group_name, group_count }) => ({
    id,
    keywords,
    description,
    group: { name: group_name, count: group_count },
    title,
    owner,
    folder,
    daysLeft: days_left,
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
  const rows = await database.rows<{
    id: string;
    master: string;
    title: string;
    message: string;
    at: Date;
    recipe: string | null;
  }>(
    `select notice.id::text, notice.master, master.title, message, at, recipe.id as recipe
       from notice join master on master.id = notice.master
       left join recipe on recipe.master = notice.master and about = 'derive ' || recipe.id and recipe.withdrawn_at is null
      where $1::text is null or (notice.master = $1 and about <> 'outside') order by at desc limit 20`,
    [master],
  );
  return rows.map(({ at, ...rest }) => ({ ...rest, at: at.toISOString() }));
}

/** What the Desk says above its rows, asked over everything there is. */
export async function summaryOf(database: Database): Promise<Summary> {
  const [counts, needs, notices] = await Promise.all([
    database.rows<{ total: number; aside: number; thrown: number }>(
      "select count(*) filter (where state = 'live')::integer as total, count(*) filter (where state = 'aside')::integer as aside, count(*) filter (where state = 'thrown')::integer as thrown from master",
    ),
    attention(database),
    noticesOf(database, null),
  ]);
  return { ...counts[0]!, attention: needs, notices };
}

const text = (value: unknown): string => (typeof value === 'string' ? value.slice(0, 200) : '');

export function deskRoutes(router: Router, { database, shelf, summary }: Workshop): void {
  on(router, 'desk', async ({ request }) => {
    const ask = (key: string): string => text(request.query[key]);
    const asked = {
      after: typeof request.query['after'] === 'string' ? request.query['after'].slice(0, 2000) : '',
      find: ask('find'),
      state: ask('state'),
      order: ask('order'),
      group: ask('group'),
      verdict: ask('verdict'),
      keyword: ask('keyword'),
      place: ask('place'),
    };
    const [all, masters] = await Promise.all([summary.get(), askDesk(database, asked, DESK_PAGE + 1)]);
    const page = masters.slice(0, DESK_PAGE);
    return {
      ...all,
      masters: await rowsOf(database, page, optionalPerson(request)),
      next: masters.length > DESK_PAGE ? cursorOfRow(page.at(-1)!) : null,
      shelf: shelf.root,
    };
  });
  on(router, 'summary', () => summary.get());

  on(router, 'deskRow', async ({ params, request }) => {
    const masters = await oneOnDesk(database, params['id']!, text(request.query['state']));
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

import { Failure } from '@inkwell-twin/core';
import { DESK_GROUPS, DESK_ORDERS, type DeskGroup, type DeskOrder, type DeskRow } from '@inkwell-twin/api';
import type { Database } from '../database/database';
import { DAYS } from '../masters/thrown';

/** How the Desk is asked for. */
interface DeskAsked {
  readonly after: string;
  readonly find: string;
  readonly state: string;
  readonly order: string;
  readonly group: string;
  /** Only masters with a copy that stands so; empty for all. */
  readonly verdict: string;
  readonly keyword: string;
  /** Only what lies in this place of the shelf, or in places within it. */
  readonly place: string;
}

export interface MasterRow {
  id: string;
  title: string;
  owner: string;
  folder: string;
  keywords: string[];
  description: DeskRow['description'];
  days_left: number | null;
  picture: number | null;
  group_name: string;
  group_count: number;
  sort_key: string;
}

/** Every order is ascending by a text, so that one cursor fits all; what comes last first is told from the far end. */
const ORDERS: Readonly<Record<DeskOrder, string>> = {
  begun: `to_char(created_at at time zone 'utc', 'YYYYMMDDHH24MISSUS')`,
  name: 'lower(title)',
  changed: `to_char(9999999999999 - extract(epoch from (select time from revision where revision.master = master.id and rev = head)) * 1000, 'FM0000000000000')`,
  trouble: `to_char(100000 - (select count(*) from copy_now where copy_now.master = master.id and verdict not in ('in step', 'accepted', 'not checked'))
    - (select count(*) from link where link.master = master.id and state <> 'here'), 'FM000000')`,
};
/** What a row is laid together by, as a set: a master with two keywords stands under both. */
const GROUPS: Readonly<Record<DeskGroup, string>> = {
  none: `select ''`,
  folder: `select coalesce(substring(folder from '^(.*)/'), '')`,
  keyword: `select unnest(case when keywords = '{}' then array[''] else keywords end)`,
  owner: 'select owner',
};

const COLUMNS = `master.id, title, owner, folder, keywords,
    (select state from sidecar where sidecar.master = master.id and state not in ('none', 'in step') order by about limit 1) as description, picture.rev as picture,
  ceil(extract(epoch from thrown_at + make_interval(days => ${DAYS}) - now()) / 86400)::integer as days_left`;

const known = <T extends string>(text: string, names: readonly T[], what: string): T => {
  if (!text) return names[0]!;
  if (!(names as readonly string[]).includes(text))
    throw new Failure('request-invalid', `“${text}” is no ${what} of the Desk. Take one of: ${names.join(', ')}.`);
  return text as T;
};

function cursorOf(after: string): [string, string, string] {
  if (!after) return ['', '', ''];
  try {
    const parts = JSON.parse(Buffer.from(after, 'base64url').toString()) as unknown;
    if (Array.isArray(parts) && parts.length === 3 && parts.every((part) => typeof part === 'string'))
      return parts as [string, string, string];
  } catch {
    /* told below */
  }
  throw new Failure('request-invalid', '“after” is the cursor of a row.');
}
export const cursorOfRow = ({ group_name, sort_key, id }: Pick<MasterRow, 'group_name' | 'sort_key' | 'id'>): string =>
  Buffer.from(JSON.stringify([group_name, sort_key, id])).toString('base64url');

/** The rows that come next: in their groups, in their order. @throws Failure `request-invalid` */
export async function askDesk(database: Database, asked: DeskAsked, most: number): Promise<MasterRow[]> {
  const order = ORDERS[known(asked.order, DESK_ORDERS, 'order')];
  const group = GROUPS[known(asked.group, DESK_GROUPS, 'group')];
  const state = known(asked.state, STATES, 'state');
  const after = cursorOf(asked.after);
  return database.rows<MasterRow>(
    `with found as (
       select ${COLUMNS}, laid.name as group_name, ${order} as sort_key
         from master left join picture on picture.master = master.id cross join lateral (${group}) as laid (name)
        where state = $1
          and ($2 = '' or position(lower($2) in lower(title || ' ' || owner || ' ' || folder || ' ' || array_to_string(keywords, ' '))) > 0)
          and ($3 = '' or exists (select from copy_now where copy_now.master = master.id and verdict = $3))
          and ($4 = '' or keywords @> array[$4])
          ${group === GROUPS.keyword ? "and ($4 = '' or laid.name = $4)" : ''}
          and ($5 = '' or starts_with(folder, $5 || '/'))),
     counted as (select *, count(*) over (partition by group_name)::integer as group_count from found)
     select * from counted
      where $6 or (group_name collate "und-x-icu", sort_key collate "und-x-icu", id) > ($7, $8, $9)
      order by group_name collate "und-x-icu", sort_key collate "und-x-icu", id limit $10`,
    [state, asked.find, asked.verdict, asked.keyword, asked.place, !asked.after, ...after, most],
  );
}

/** The masters at work, what was set aside, and what was thrown away. */
const STATES = ['live', 'aside', 'thrown'] as const;

/** One row by itself, if its master is among those that are shown. @throws Failure `request-invalid` */
export async function oneOnDesk(database: Database, id: string, state: string): Promise<MasterRow[]> {
  return database.rows<MasterRow>(
    `select ${COLUMNS}, '' as group_name, 0 as group_count, ${ORDERS.begun} as sort_key
       from master left join picture on picture.master = master.id where master.id = $1 and state = $2`,
    [id, known(state, STATES, 'state')],
  );
}

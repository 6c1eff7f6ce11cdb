import type { Router } from 'express';
import type { Found } from '@inkwell-twin/api';
import { Failure } from '@inkwell-twin/core';
import type { CopyRow } from '../copies/rows';
import type { Workshop } from '../workshop';
import { on } from './handle';

/** How many of each kind are answered, and how many words are looked for. */
const [MOST, MOST_WORDS] = [8, 8];

/** A word as a pattern that stands anywhere in a name, whatever is in it. */
const anywhere = (word: string): string => `%${word.replace(/[\\%_]/g, '\\$&')}%`;

/** What is called something, over all that is on the Desk. Names that begin with what was typed come first. */
export function findRoutes(router: Router, { database }: Workshop): void {
  on(router, 'find', async ({ request }): Promise<Found> => {
    const typed = request.query['find'];
    const text = typeof typed === 'string' ? typed.slice(0, 200).trim() : '';
    const words = text.split(/\s+/).filter(Boolean);
    if (!words.length) throw new Failure('request-invalid', '“find” is a part of a name.');
    if (words.length > MOST_WORDS) throw new Failure('request-invalid', `At most ${MOST_WORDS} words are looked for at once.`);
    const [patterns, first] = [words.map(anywhere), anywhere(text).slice(1)];
    const live = "master.state = 'live'";
    const [masters, copies, revisions, objects] = await Promise.all([
      database.rows<Found['masters'][number]>(
        `select id, title, owner from master where ${live} and title || ' ' || owner ilike all ($1)
          order by title not ilike $2, title, id limit ${MOST}`,
        [patterns, first],
      ),
      database.rows<{ id: string; master: string; title: string; label: string; verdict: CopyRow['verdict'] }>(
        `with found as (
           select copy.id from copy join recipe on recipe.id = copy.recipe join master on master.id = recipe.master
            where ${live} and copy.state = 'live' and recipe.label || ' ' || copy.file ilike all ($1)
            order by recipe.label not ilike $2, recipe.label, copy.id limit ${MOST})
         select copy_now.id, copy_now.master, master.title, copy_now.label, copy_now.verdict
           from copy_now join master on master.id = copy_now.master where copy_now.id in (select id from found)
          order by copy_now.label not ilike $2, copy_now.label, copy_now.id`,
        [patterns, first],
      ),
      database.rows<Found['revisions'][number]>(
        `select master, title, rev, name, message from revision join master on master.id = revision.master
          where ${live} and name || ' ' || message || ' r' || rev || ' ' || title ilike all ($1)
          order by name = '', name not ilike $2, time desc limit ${MOST}`,
        [patterns, first],
      ),
      database.rows<Found['objects'][number]>(
        `select master.id as master, title, one->>'id' as id, one->>'name' as name, one->>'part' as part
           from master cross join jsonb_array_elements(object_names) one
          where ${live} and one->>'name' ilike all ($1)
          order by one->>'name' not ilike $2, one->>'name', title, one->>'id' limit ${MOST}`,
        [patterns, first],
      ),
    ]);
    return { masters, copies, revisions, objects };
  });
}

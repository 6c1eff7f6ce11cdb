import type { Router } from 'express';
import { Failure } from '@inkwell-twin/core';
import { BoundedCache } from '../compute/cache';
import { assertLife } from '../masters/store';
import type { Workshop } from '../workshop';
import { on, plain } from './handle';
import { sendPacked } from './packed';

/** Documents that were asked for lately, packed; they never change. */
const DOCUMENTS = 48 * 1024 * 1024;

/** Patches in letters beyond which the document is sent whole instead. */
const MOST_CHANGES = 1024 * 1024;

function revOf(text: string | undefined): number {
  const rev = Number(text);
  if (!Number.isInteger(rev) || rev < 1 || rev > 1e9) throw new Failure('request-invalid', 'A revision is a number from 1.');
  return rev;
}

/** What a master was at each of its revisions, and what changed between them. */
export function revisionRoutes(router: Router, { compute, database, jobs }: Workshop): void {
  const documents = new BoundedCache<Uint8Array>(DOCUMENTS);

  /** A record that can't be read is a matter for people: the Desk says so until it is mended, or set aside. */
  const noteDamage = (master: string) => async (error: unknown) => {
    if (error instanceof Failure && error.code === 'record-damaged') await jobs.notice(master, 'record', error.message);
    throw error;
  };
  on(router, 'revision', async ({ params, request, response }) => {
    const rev = revOf(params['rev']);
    const [known] = await database.rows<{ life: string }>(
      'select life from revision join master on master.id = revision.master where master = $1 and rev = $2',
      [params['id'], rev],
    );
    if (!known) throw new Failure('not-found', 'This master has no such revision.');
    assertLife(known.life, request.query['life']);
    const key = `${known.life} ${rev}`;
    let packed = documents.get(key);
    if (!packed) {
      packed = await compute
        .run('revision', { master: params['id']!, life: known.life, rev }, { queueKey: params['id']! })
        .catch(noteDamage(params['id']!));
      documents.set(key, packed, packed.length);
    }
    await sendPacked(request, response, packed);
  });

  on(router, 'nodeHistory', async ({ params }) => ({
    revisions: await compute.run('nodeHistory', { master: params['id']!, node: params['node']! }, { queueKey: params['id']! }),
  }));

  on(router, 'nameRevision', async ({ params, body }) => {
    const rev = revOf(params['rev']);
    await database.transaction(async (client) => {
      const { rowCount } = await client.query('update revision set name = $3 where master = $1 and rev = $2', [
        params['id'],
        rev,
        plain(body.name).trim(),
      ]);
      if (!rowCount) throw new Failure('not-found', 'This master has no such revision.');
      await jobs.writeFile(params['id']!, client);
    });
    await jobs.event({ kind: 'master', master: params['id']! });
    return { done: true as const };
  });

  on(router, 'changes', async ({ params, request, response }) => {
    const [from, to] = [revOf(params['from']), revOf(params['to'])];
    if (from > to) throw new Failure('request-invalid', `Changes lead forward: r${from} is not before r${to}.`);
    const [found] = await database.rows<{ life: string; head: number; size: string }>(
      `select life, head, (select coalesce(sum(length(patches::text)), 0) from revision where master = id and rev > $2 and rev <= $3) as size
       from master where id = $1`,
      [params['id'], from, to],
    );
    if (!found || to > found.head) throw new Failure('not-found', 'This master has no such revisions.');
    assertLife(found.life, request.query['life']);
    if (Number(found.size) > MOST_CHANGES) return { patches: null };
    const rows = await database.rows<{ patches: string }>(
      'select patches::text from revision where master = $1 and rev > $2 and rev <= $3 order by rev',
      [params['id'], from, to],
    );
    // Arrays one behind the other: put together as text, since nothing here needs to look into them.
    const inside = rows.map(({ patches }) => patches.trim().slice(1, -1)).filter((text) => text.trim());
    response.send(`{"patches":[${inside.join(',')}]}`);
  });
}

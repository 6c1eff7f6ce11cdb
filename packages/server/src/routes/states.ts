import type { Router } from 'express';
import { Failure } from '@inkwell-twin/core';
import { sweepBlobs } from '../blobs/blobs';
import { throwAway } from '../masters/thrown';
import type { Workshop } from '../workshop';
import { on } from './handle';

/** Masters that are set aside, thrown away, brought back, and deleted for good. */
export function stateRoutes(router: Router, { database, jobs, summary }: Workshop): void {
  const setState = async (id: string, state: 'live' | 'aside') => {
    const { rowCount } = await database.query('update master set state = $2, thrown_at = null where id = $1', [id, state]);
    if (!rowCount) throw new Failure('not-found', 'There is no such master on this Desk.');
    summary.forget();
    await jobs.event({ kind: 'master', master: id });
    return { done: true as const };
  };
  on(router, 'setAside', ({ params }) => setState(params['id']!, 'aside'));
  on(router, 'bringBack', async ({ params }) => {
    const done = await setState(params['id']!, 'live');
    await jobs.stand(params['id']!);
    return done;
  });
  on(router, 'throwAway', async ({ params }) => {
    await throwAway(database, params['id']!);
    summary.forget();
    await jobs.event({ kind: 'master', master: params['id']! });
    return { done: true as const };
  });

  on(router, 'deleteMaster', async ({ params }) => {
    await database.transaction(async (client) => {
      const { rowCount } = await client.query("delete from master where id = $1 and state <> 'live'", [params['id']]);
      if (!rowCount)
        throw new Failure(
          'conflict',
          'Only a master that was set aside or thrown away can be deleted. Throw it away first; nothing was deleted.',
        );
      await sweepBlobs(client);
    });
    summary.forget();
    await jobs.event({ kind: 'master', master: params['id']! });
    return { done: true as const };
  });
}

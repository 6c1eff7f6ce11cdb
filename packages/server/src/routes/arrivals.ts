import type { Request, Router } from 'express';
import { BRING_IN_LIMIT, PERSON_HEADER } from '@inkwell-twin/api';
import { type PartWishes, partWishes } from '@inkwell-twin/core';
import type { Workshop } from '../workshop';
import { nameOf, on, personOf } from './handle';
import { leafOf, sendPacked } from './packed';
import type { Uploads } from './upload';

/** How somebody wishes a file to come in. @throws Failure `option-invalid` */
function wishesOf({ query }: Request): PartWishes {
  const { name: _name, ...stated } = query;
  return partWishes(Object.fromEntries(Object.entries(stated).filter(([, value]) => value !== '')));
}

/** Files that are looked at, told apart and brought in. */
export function arrivalRoutes(router: Router, { compute, database, jobs, summary }: Workshop, uploads: Uploads): void {
  on(router, 'identify', async ({ request }) =>
    uploads.receive(request, BRING_IN_LIMIT, (path) =>
      compute.run('identify', { path, name: nameOf(request) }, { queueKey: 'upload', large: true }),
    ),
  );
  on(router, 'matchFile', async ({ request, response }) => {
    const leaf = leafOf(request);
    const copy = String(request.query['copy'] ?? '');
    const packed = await uploads.receive(request, BRING_IN_LIMIT, (path) =>
      compute.run('matchFile', { path, name: nameOf(request), leaf, copy }, { queueKey: 'upload', large: true }),
    );
    await sendPacked(request, response, packed);
  });
  on(router, 'lookAtJob', async ({ request, response }) => {
    const packed = await uploads.receive(request, BRING_IN_LIMIT, (path) =>
      compute.run('lookAtJob', { path, name: nameOf(request), machine: '' }, { queueKey: 'upload', large: true }),
    );
    await sendPacked(request, response, packed);
  });
  on(router, 'attach', async ({ params, request }) => {
    const copy = params['id']!;
    await uploads.receive(request, BRING_IN_LIMIT, (path) =>
      compute.run('attach', { path, name: nameOf(request), copy }, { queueKey: 'upload', large: true }),
    );
    const [row] = await database.rows<{ master: string }>('select master from copy_now where id = $1', [copy]);
    if (row) await jobs.event({ kind: 'copies', master: row.master });
    summary.forget();
    return { done: true as const };
  });
  on(router, 'bringIn', async ({ request }) => {
    const wishes = wishesOf(request);
    // Programs that bring something in need not say who they are.
    const owner = request.headers[PERSON_HEADER] === undefined ? '' : personOf(request).name;
    const brought = await uploads.receive(request, BRING_IN_LIMIT, (path) =>
      compute.run('bringIn', { path, name: nameOf(request), owner, wishes }, { queueKey: 'upload', large: true }),
    );
    summary.forget();
    return brought;
  });
  on(router, 'look', async ({ request }) => {
    const wishes = wishesOf(request);
    const look = await uploads.receive(request, BRING_IN_LIMIT, (path) =>
      compute.run('look', { path, name: nameOf(request), wishes }, { queueKey: 'upload', large: true }),
    );
    return { look };
  });
  on(router, 'lookNewer', ({ request }) =>
    uploads.receive(request, BRING_IN_LIMIT, (path) =>
      compute.run('lookNewer', { path, name: nameOf(request) }, { queueKey: 'upload', large: true }),
    ),
  );
}

/** What stands on the shelf and is not on the Desk, and what somebody else saved in a master's folder. */
export function shelfRoutes(router: Router, { compute, jobs, summary }: Workshop): void {
  on(router, 'newerOnShelf', ({ body }) => compute.run('newerOnShelf', body, { queueKey: 'shelf', large: true }));
  on(router, 'foundOnShelf', async () => ({ found: await compute.run('foundOnShelf', {}, { queueKey: 'shelf' }) }));
  on(router, 'openFromShelf', async ({ body }) => {
    const id = await compute.run('openFromShelf', body, { queueKey: 'shelf' });
    summary.forget();
    return { id };
  });
  on(router, 'removeLeftovers', async ({ params }) => {
    const stayed = await compute.run('removeLeftovers', { master: params['id']! }, { queueKey: params['id']! });
    await jobs.event({ kind: 'master', master: params['id']! });
    return { stayed };
  });
  on(router, 'outside', async ({ params, request, response }) => {
    const packed = await compute.run('outside', { master: params['id']! }, { queueKey: params['id']! });
    await sendPacked(request, response, packed);
  });
  on(router, 'settleOutside', async ({ params, body }) => {
    await compute.run('outsideSettle', { master: params['id']!, ...body }, { queueKey: params['id']! });
    return { done: true as const };
  });
}

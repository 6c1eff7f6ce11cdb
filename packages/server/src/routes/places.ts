import type { Router } from 'express';
import type { Workshop } from '../workshop';
import { on, plain } from './handle';

/** Where masters stand on the shelf. */
export function placeRoutes(router: Router, { compute, jobs }: Workshop): void {
  on(router, 'places', async () => ({ places: await compute.run('places', {}, { queueKey: 'shelf' }) }));
  on(router, 'standing', async ({ params, request }) => {
    const [place, name] = [String(request.query['place'] ?? ''), plain(String(request.query['name'] ?? ''))];
    return compute.run('standing', { master: params['id']!, place, name }, { queueKey: 'shelf' });
  });
  on(router, 'move', async ({ params, body }) => {
    const id = params['id']!;
    const folder = await compute.run('move', { master: id, ...body, name: plain(body.name) }, { queueKey: id });
    await jobs.event({ kind: 'master', master: id });
    await jobs.event({ kind: 'copies', master: id });
    return { folder };
  });
}

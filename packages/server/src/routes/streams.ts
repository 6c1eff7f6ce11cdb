import type { Request, Response, Router } from 'express';
import { publicPerson } from '@inkwell-twin/api';
import { Failure } from '@inkwell-twin/core';
import type { Workshop } from '../workshop';
import { on, personOf, plain } from './handle';

/** So many browsers may listen to events at once, each with one connection for all its windows. */
const STREAMS = 512;

export function streamRoutes(router: Router, workshop: Workshop): void {
  on(router, 'events', async ({ request, response }) => listen(workshop, request, response));
  on(router, 'here', async ({ params, body, request }) => {
    const { id, name } = personOf(request);
    const windows = body.windows.map(({ tab, master }) => ({ tab: plain(tab), master: plain(master) }));
    if (!workshop.presence.at(params['stream']!, { person: publicPerson(id), name }, windows))
      throw new Failure('not-found', 'Nobody listens by that name here any more.');
    return { done: true as const };
  });
}

/** A browser listens, by a name of its own (?stream=) by which it then says where its windows are. */
function listen({ events, presence }: Workshop, request: Request, response: Response): void {
  if (events.count >= STREAMS)
    throw new Failure('busy', `${STREAMS} browsers are listening already. Changes of others show once one of them is closed.`);
  response.set('X-Accel-Buffering', 'no');
  response.flushHeaders();
  response.write('retry: 1000\n\n');
  const stop = events.listen((event) => {
    // One who does not read is let go rather than remembered for.
    if (response.writableLength > 1_000_000) response.destroy();
    else response.write(`data: ${JSON.stringify(event)}\n\n`);
  });
  const stream = plain(String(request.query['stream'] ?? '')).slice(0, 64);
  const leave = stream ? presence.enter(stream) : () => undefined;
  const beat = setInterval(() => response.write(': here\n\n'), 20_000);
  request.on('close', () => {
    stop();
    leave();
    clearInterval(beat);
  });
}

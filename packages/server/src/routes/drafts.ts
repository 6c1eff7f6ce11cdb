import type { Request, Router } from 'express';
import { publicPerson } from '@inkwell-twin/api';
import { Failure } from '@inkwell-twin/core';
import type { Workshop } from '../workshop';
import type { Person } from '../masters/drafts';
import { on, personOf, tabOf } from './handle';
import { sendPacked } from './packed';

interface Asked {
  readonly master: string;
  readonly person: Person;
}

export function draftRoutes(router: Router, { database, journal, jobs, log }: Workshop): void {
  const assertKnown = async (id: string): Promise<void> => {
    const [known] = await database.rows('select from master where id = $1', [id]);
    if (!known) throw new Failure('not-found', 'There is no such master on this Desk.');
  };

  on(router, 'draft', async ({ params, request, response }) => {
    const master = params['id']!;
    await assertKnown(master);
    const packed = await journal.run('draft', { master, person: personOf(request).id }, { queueKey: master });
    await sendPacked(request, response, packed);
  });
  /** The bytes of a body that the journal's own thread will read. */
  const bytesOf = ({ body }: Request): Uint8Array => (Buffer.isBuffer(body) ? new Uint8Array(body) : new Uint8Array());
  /** Tells the other windows that look on, wherever they are. What is not told is looked for when they come back. */
  const moved = ({ master, person }: Asked, tab: string, position: number): void =>
    void jobs
      .event({ kind: 'draft', master, person: publicPerson(person.id), name: person.name, tab, position })
      .catch((error: unknown) => log('telling of a draft', error));
  /** Runs a change of a draft, and tells of it. */
  const moving = async <T extends { position: number } | void>(
    request: Request,
    run: (asked: Asked) => Promise<T>,
  ): Promise<T> => {
    const asked = { master: String(request.params['id']), person: personOf(request) };
    const done = await run(asked);
    moved(asked, tabOf(request), done?.position ?? 0);
    return done;
  };
  on(router, 'addSteps', ({ request }) =>
    moving(request, (asked) => journal.run('addSteps', { body: bytesOf(request), ...asked }, { queueKey: asked.master })),
  );
  on(router, 'moveDraft', ({ body, request }) =>
    moving(request, (asked) => journal.run('moveDraft', { ...body, ...asked }, { queueKey: asked.master })),
  );
  on(router, 'replaceDraft', ({ request }) =>
    moving(request, (asked) => journal.run('replaceDraft', { body: bytesOf(request), ...asked }, { queueKey: asked.master })),
  );
  on(router, 'discardDraft', async ({ request }) => {
    await moving(request, (asked) => journal.run('discardDraft', asked, { queueKey: asked.master }));
    return { done: true as const };
  });
  // What was a draft is a revision then, in every window.
  on(router, 'update', async ({ body, request }) => {
    const asked = { master: String(request.params['id']), person: personOf(request) };
    const updated = await journal.run('update', { ...body, ...asked }, { queueKey: asked.master });
    moved(asked, tabOf(request), 0);
    return updated;
  });
}

import type { Request, Router } from 'express';
import { Failure } from '@inkwell-twin/core';
import type { Workshop } from '../workshop';
import { on, personOf } from './handle';
import { sendPacked } from './packed';

export function draftRoutes(router: Router, { database, journal }: Workshop): void {
  const assertKnown = async (id: string): Promise<void> => {
    const [known] = await database.rows('select from master where id = $1', [id]);
    if (!known) throw new Failure('not-found', 'There is no such master on this Desk.');
  };

  on(router, 'draft', async ({ params, request, response }) => {
    const master = params['id']!;
    await assertKnown(master);
    const packed = await journal.run('draft', { master, person: personOf(request).id }, { whose: master });
    await sendPacked(request, response, packed);
  });
  /** The bytes of a body that the journal's own thread will read. */
  const bytesOf = ({ body }: Request): Uint8Array => (Buffer.isBuffer(body) ? new Uint8Array(body) : new Uint8Array());
  on(router, 'addSteps', async ({ params, request }) =>
    journal.run(
      'addSteps',
      { body: bytesOf(request), master: params['id']!, person: personOf(request) },
      { whose: params['id']! },
    ),
  );
  on(router, 'moveDraft', async ({ params, body, request }) =>
    journal.run('moveDraft', { ...body, master: params['id']!, person: personOf(request) }, { whose: params['id']! }),
  );
  on(router, 'replaceDraft', async ({ params, request }) =>
    journal.run(
      'replaceDraft',
      { body: bytesOf(request), master: params['id']!, person: personOf(request) },
      { whose: params['id']! },
    ),
  );
  on(router, 'discardDraft', async ({ params, request }) => {
    await journal.run('discardDraft', { master: params['id']!, person: personOf(request) }, { whose: params['id']! });
    return { done: true as const };
  });
  on(router, 'update', async ({ params, body, request }) =>
    journal.run('update', { ...body, master: params['id']!, person: personOf(request) }, { whose: params['id']! }),
  );
}

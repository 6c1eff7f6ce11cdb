import type { Router } from 'express';
import type { Step } from '@inkwell-twin/core';
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
  on(router, 'addSteps', async ({ params, body, request }) => {
    const master = params['id']!;
    const steps = body.steps as Step[];
    return journal.run('addSteps', { ...body, steps, master, person: personOf(request) }, { whose: master });
  });
  on(router, 'moveDraft', async ({ params, body, request }) =>
    journal.run('moveDraft', { ...body, master: params['id']!, person: personOf(request) }, { whose: params['id']! }),
  );
  on(router, 'replaceDraft', async ({ params, body, request }) => {
    const steps = body.steps as Step[];
    return journal.run(
      'replaceDraft',
      { ...body, steps, master: params['id']!, person: personOf(request) },
      { whose: params['id']! },
    );
  });
  on(router, 'discardDraft', async ({ params, request }) => {
    await journal.run('discardDraft', { master: params['id']!, person: personOf(request) }, { whose: params['id']! });
    return { done: true as const };
  });
  on(router, 'update', async ({ params, body, request }) =>
    journal.run('update', { ...body, master: params['id']!, person: personOf(request) }, { whose: params['id']! }),
  );
}

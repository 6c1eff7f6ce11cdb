import type { Router } from 'express';
import { digest } from '@inkwell-twin/core';
import { BoundedCache } from '../compute/cache';
import type { Workshop } from '../workshop';
import { on } from './handle';
import { sendPacked } from './packed';

/** Solids that were made lately, packed. */
const SOLIDS = 64 * 1024 * 1024;

/** What is made for the stage: solids, and what boards show of parts. */
export function partRoutes(router: Router, { compute }: Workshop): void {
  const solids = new BoundedCache<Uint8Array>(SOLIDS);

  on(router, 'solid', async ({ params, body, request, response }) => {
    // What it looks like depends on what was asked for and nothing else; the files that it names never change.
    const key = digest(JSON.stringify(body));
    let packed = solids.get(key);
    if (!packed) {
      packed = await compute.run('solid', body, { queueKey: params['id']! });
      solids.set(key, packed, packed.length);
    }
    await sendPacked(request, response, packed);
  });

  on(router, 'placed', async ({ params, body }) => {
    const asked = { ...body, master: params['id']! };
    return compute.run('placed', asked, { queueKey: params['id']! });
  });
}

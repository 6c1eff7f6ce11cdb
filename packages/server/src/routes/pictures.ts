import type { Router } from 'express';
import { BRING_IN_LIMIT } from '@inkwell-twin/api';
import { Failure } from '@inkwell-twin/core';
import { BoundedCache } from '../compute/cache';
import type { Workshop } from '../workshop';
import { SANDBOX, nameOf, on } from './handle';
import type { Uploads } from './upload';

/** Pictures made small that were asked for lately. */
const THUMBNAILS = 96 * 1024 * 1024;
/** Pixels each way that a small picture may have. */
const LARGEST = 4096;

/** Pictures that masters keep, and those that they link. */
export function pictureRoutes(router: Router, { compute, database }: Workshop, uploads: Uploads): void {
  const thumbnails = new BoundedCache<Uint8Array>(THUMBNAILS);

  on(router, 'addPicture', async ({ params, request }) =>
    uploads.receive(request, BRING_IN_LIMIT, (path) =>
      compute.run('addPicture', { path, name: nameOf(request), master: params['id']! }, { queueKey: 'upload', large: true }),
    ),
  );
  on(router, 'picture', async ({ params, request, response }) => {
    const [sha, most] = [params['sha']!, Number(request.query['most'] ?? 2048)];
    if (!Number.isInteger(most) || most < 1 || most > LARGEST)
      throw new Failure('request-invalid', `A size is a number of pixels from 1 to ${LARGEST}.`);
    if (!(await database.rows('select from original where sha256 = $1', [sha])).length)
      throw new Failure('not-found', 'No master keeps this picture.');
    const key = `${sha} ${most}`;
    let bytes = thumbnails.get(key);
    if (!bytes) {
      bytes = await compute.run('thumbnail', { sha, most }, { queueKey: `picture ${sha}` });
      thumbnails.set(key, bytes, bytes.length);
    }
    // What a checksum names never changes.
    response.set({ ...SANDBOX, 'Cache-Control': 'private, max-age=86400, immutable' }).send(Buffer.from(bytes));
  });

  on(router, 'links', async ({ params, body }) => ({
    links: await compute.run('links', { master: params['id']!, ...body }, { queueKey: params['id']! }),
  }));
  on(router, 'linkable', async ({ request }) => ({
    files: await compute.run('linkable', { name: nameOf(request) }, { queueKey: 'shelf' }),
  }));
  on(router, 'linkPicture', ({ params, body }) =>
    compute.run('linkPicture', { master: params['id']!, ...body }, { queueKey: params['id']!, large: true }),
  );
  on(router, 'putOut', async ({ params, body }) => ({
    link: await compute.run('putOut', { master: params['id']!, ...body }, { queueKey: params['id']! }),
  }));
}

import type { Router } from 'express';
import { FILE_TYPE } from '@inkwell-twin/api';
import { Failure } from '@inkwell-twin/core';
import { blobChunks } from '../blobs/blobs';
import { type CopyRow, IN_ORDER, SELECT_COPIES, viewOfRow } from '../copies/rows';
import type { Older } from '../masters/older';
import type { Workshop } from '../workshop';
import { noticesOf } from './desk';
import { SANDBOX, on } from './handle';
import { sendChunks } from './packed';
import { type RevisionRow, draftsOf, optionalPerson, viewOfRevision } from './rows';
import { derivationsOf } from '../copies/derivations';

/** A master: begun, shown, and taken away as files. */
export function masterRoutes(router: Router, { compute, database, shelf, summary }: Workshop): void {
  on(router, 'thumbnail', async ({ params, response }) => {
    const [row] = await database.rows<{ png: Buffer }>('select png from picture where master = $1', [params['id']]);
    if (!row) throw new Failure('not-found', 'There is no picture of this master yet.');
    response.set(SANDBOX).send(row.png);
  });

  on(router, 'newMaster', async ({ body }) => {
    const id = await compute.run('newOne', body, { queueKey: 'new' });
    summary.forget();
    return { id };
  });
  on(router, 'another', async ({ params, body }) => {
    const { rev } = body;
    const id = await compute.run('another', { ...body, rev: rev ?? null, master: params['id']! }, { queueKey: params['id']! });
    summary.forget();
    return { id };
  });

  on(router, 'master', async ({ params, request }) => {
    const id = params['id']!;
    const [[master], revisions, copies, drafts, notices, derivations, [outside]] = await Promise.all([
      database.rows<{ life: string; title: string; folder: string; head: number; older: Older | null; broken: number }>(
        `select life, title, folder, head, older,
           (select count(*)::integer from link where link.master = master.id and state <> 'here') as broken
           from master where id = $1`,
        [id],
      ),
      database.rows<RevisionRow>('select rev, time, author, message, name from revision where master = $1 order by rev', [id]),
      database.rows<CopyRow>(`${SELECT_COPIES} where master = $1 ${IN_ORDER}`, [id]),
      draftsOf(database, [id], optionalPerson(request)),
      noticesOf(database, id),
      derivationsOf(database, id),
      database.rows<{ sha256: string; base: number; at: Date; trouble: string | null }>(
        'select sha256, base, at, trouble from outside where master = $1',
        [id],
      ),
    ]);
    if (!master) throw new Failure('not-found', 'There is no such master on this Desk.');
    return {
      id,
      life: master.life,
      title: master.title,
      file: shelf.masterFile(master.folder),
      folder: master.folder,
      older: master.older && {
        version: master.older.version,
        files: master.older.files.map(({ file, size }) => ({ file, size })),
        updated: master.head > 1,
      },
      outside: outside ? { ...outside, at: outside.at.toISOString() } : null,
      brokenLinks: master.broken,
      head: master.head,
      revisions: revisions.map(viewOfRevision),
      copies: copies.map(viewOfRow),
      derivations,
      ...drafts.get(id)!,
      notices,
    };
  });

  on(router, 'original', async ({ params, response }) => {
    const [row] = await database.rows<{ name: string }>('select name from original where master = $1 and sha256 = $2', [
      params['id'],
      params['sha'],
    ]);
    if (!row) throw new Failure('not-found', 'This master keeps no such original.');
    response.attachment(row.name).type(FILE_TYPE).set(SANDBOX);
    await sendChunks(response, blobChunks(database, params['sha']!));
  });

  on(router, 'package', async ({ params, request, response }) => {
    const id = params['id']!;
    const form = request.query['form'] === 'light' ? ('light' as const) : ('whole' as const);
    const [row] = await database.rows<{ folder: string }>('select folder from master where id = $1', [id]);
    if (!row) throw new Failure('not-found', 'There is no such master on this Desk.');
    const bytes = await compute.run('packed', { master: id, form }, { queueKey: id, large: true });
    response.attachment(shelf.masterFile(row.folder)).type(FILE_TYPE).set(SANDBOX).send(Buffer.from(bytes));
  });
}

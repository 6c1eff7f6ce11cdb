import type { Request, Router } from 'express';
import { BRING_IN_LIMIT, FILE_TYPE } from '@inkwell-twin/api';
import { Failure, type PartWishes, digest, partWishes } from '@inkwell-twin/core';
import { blobChunks, sweepBlobs } from '../blobs/blobs';
import { BoundedCache } from '../compute/cache';
import { type CopyRow, IN_ORDER, SELECT_COPIES, viewOfRow } from '../copies/rows';
import type { Older } from '../masters/older';
import { assertLife } from '../masters/store';
import { removeTemplate } from '../masters/templates';
import { throwAway } from '../masters/thrown';
import type { Workshop } from '../workshop';
import { noticesOf } from './desk';
import { on, personOf, plain } from './handle';
import { leafOf, sendChunks, sendPacked } from './packed';
import { type RevisionRow, draftsOf, optionalPerson, viewOfRevision } from './rows';
import type { Uploads } from './upload';

/** Documents that were asked for lately, packed; they never change. */
const DOCUMENTS = 48 * 1024 * 1024;

/** Pictures made small that were asked for lately. */
const THUMBNAILS = 96 * 1024 * 1024;
/** Solids that were made lately, packed. */
const SOLIDS = 64 * 1024 * 1024;
/** Pixels each way that a small picture may have. */
const LARGEST = 4096;

/** Patches in letters beyond which the document is sent whole instead. */
const MOST_CHANGES = 1024 * 1024;

function revOf(text: string | undefined): number {
  const rev = Number(text);
  if (!Number.isInteger(rev) || rev < 1 || rev > 1e9) throw new Failure('request-invalid', 'A revision is a number from 1.');
  return rev;
}

/** The name that an uploaded file had, without what could lead elsewhere. */
const nameOf = ({ query }: Request): string =>
  plain((typeof query['name'] === 'string' && query['name']) || 'file')
    .replace(/[\\/]/g, '_')
    .slice(0, 200);

/** What the browser may do with a file or a picture of someone else's making: show it, and nothing more. */
export const SANDBOX = { 'Content-Security-Policy': "sandbox; default-src 'none'", 'X-Content-Type-Options': 'nosniff' };

/** How somebody wishes a file to come in. @throws Failure `option-invalid` */
function wishesOf({ query }: Request): PartWishes {
  const { name: _name, ...stated } = query;
  return partWishes(Object.fromEntries(Object.entries(stated).filter(([, value]) => value !== '')));
}

export function masterRoutes(router: Router, workshop: Workshop, uploads: Uploads): void {
  const { database, compute, journal, jobs, shelf, summary } = workshop;
  const documents = new BoundedCache<Uint8Array>(DOCUMENTS);
  const thumbnails = new BoundedCache<Uint8Array>(THUMBNAILS);
  const solids = new BoundedCache<Uint8Array>(SOLIDS);

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

  on(router, 'templates', async () => {
    const rows = await database.rows<{ id: string; name: string; made_by: string; drawn: boolean }>(
      'select id, name, made_by, png is not null as drawn from template order by lower(name), id',
    );
    return {
      templates: rows.map(({ id, name, made_by: by, drawn }) => ({
        id,
        name,
        by,
        picture: drawn ? `/api/templates/${id}/picture.png` : null,
      })),
    };
  });
  on(router, 'templatePicture', async ({ params, response }) => {
    const [row] = await database.rows<{ png: Buffer | null }>('select png from template where id = $1', [params['id']]);
    if (!row?.png) throw new Failure('not-found', 'There is no picture of this template.');
    response.set(SANDBOX).send(row.png);
  });
  on(router, 'makeTemplate', async ({ params, body, request }) => {
    const master = params['id']!;
    const by = personOf(request).name;
    return { id: await compute.run('template', { master, name: body.name, by }, { queueKey: master }) };
  });
  on(router, 'removeTemplate', async ({ params }) => {
    await removeTemplate(database, params['id']!);
    return { done: true as const };
  });

  on(router, 'identify', async ({ request }) =>
    uploads.receive(request, BRING_IN_LIMIT, (path) =>
      compute.run('identify', { path, name: nameOf(request) }, { queueKey: 'upload', large: true }),
    ),
  );
  on(router, 'matchFile', async ({ request, response }) => {
    const leaf = leafOf(request);
    const packed = await uploads.receive(request, BRING_IN_LIMIT, (path) =>
      compute.run('matchFile', { path, name: nameOf(request), leaf }, { queueKey: 'upload', large: true }),
    );
    await sendPacked(request, response, packed);
  });
  on(router, 'bringIn', async ({ request }) => {
    const wishes = wishesOf(request);
    const brought = await uploads.receive(request, BRING_IN_LIMIT, (path) =>
      compute.run('bringIn', { path, name: nameOf(request), wishes }, { queueKey: 'upload', large: true }),
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
  on(router, 'newerOnShelf', ({ body }) => compute.run('newerOnShelf', body, { queueKey: 'shelf', large: true }));
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
  on(router, 'package', async ({ params, request, response }) => {
    const id = params['id']!;
    const form = request.query['form'] === 'light' ? ('light' as const) : ('whole' as const);
    const [row] = await database.rows<{ folder: string }>('select folder from master where id = $1', [id]);
    if (!row) throw new Failure('not-found', 'There is no such master on this Desk.');
    const bytes = await compute.run('packed', { master: id, form }, { queueKey: id, large: true });
    response.attachment(shelf.masterFile(row.folder)).type(FILE_TYPE).set(SANDBOX).send(Buffer.from(bytes));
  });

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

  on(router, 'master', async ({ params, request }) => {
    const id = params['id']!;
    const [[master], revisions, copies, drafts, notices, [outside]] = await Promise.all([
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
      ...drafts.get(id)!,
      notices,
    };
  });

  /** A record that can't be read is a matter for people: the Desk says so until it is mended, or set aside. */
  const noteDamage = (master: string) => async (error: unknown) => {
    if (error instanceof Failure && error.code === 'record-damaged') await jobs.notice(master, 'record', error.message);
    throw error;
  };
  on(router, 'revision', async ({ params, request, response }) => {
    const rev = revOf(params['rev']);
    const [known] = await database.rows<{ life: string }>(
      'select life from revision join master on master.id = revision.master where master = $1 and rev = $2',
      [params['id'], rev],
    );
    if (!known) throw new Failure('not-found', 'This master has no such revision.');
    assertLife(known.life, request.query['life']);
    const key = `${known.life} ${rev}`;
    let packed = documents.get(key);
    if (!packed) {
      packed = await compute
        .run('revision', { master: params['id']!, life: known.life, rev }, { queueKey: params['id']! })
        .catch(noteDamage(params['id']!));
      documents.set(key, packed, packed.length);
    }
    await sendPacked(request, response, packed);
  });

  on(router, 'another', async ({ params, body }) => {
    const { rev } = body;
    const id = await compute.run('another', { ...body, rev: rev ?? null, master: params['id']! }, { queueKey: params['id']! });
    summary.forget();
    return { id };
  });

  on(router, 'nodeHistory', async ({ params }) => ({
    revisions: await compute.run('nodeHistory', { master: params['id']!, node: params['node']! }, { queueKey: params['id']! }),
  }));

  on(router, 'nameRevision', async ({ params, body }) => {
    const rev = revOf(params['rev']);
    await database.transaction(async (client) => {
      const { rowCount } = await client.query('update revision set name = $3 where master = $1 and rev = $2', [
        params['id'],
        rev,
        plain(body.name).trim(),
      ]);
      if (!rowCount) throw new Failure('not-found', 'This master has no such revision.');
      await jobs.writeFile(params['id']!, client);
    });
    await jobs.event({ kind: 'master', master: params['id']! });
    return { done: true as const };
  });

  on(router, 'changes', async ({ params, request, response }) => {
    const [from, to] = [revOf(params['from']), revOf(params['to'])];
    if (from > to) throw new Failure('request-invalid', `Changes lead forward: r${from} is not before r${to}.`);
    const [found] = await database.rows<{ life: string; head: number; size: string }>(
      `select life, head, (select coalesce(sum(length(patches::text)), 0) from revision where master = id and rev > $2 and rev <= $3) as size
       from master where id = $1`,
      [params['id'], from, to],
    );
    if (!found || to > found.head) throw new Failure('not-found', 'This master has no such revisions.');
    assertLife(found.life, request.query['life']);
    if (Number(found.size) > MOST_CHANGES) return { patches: null };
    const rows = await database.rows<{ patches: string }>(
      'select patches::text from revision where master = $1 and rev > $2 and rev <= $3 order by rev',
      [params['id'], from, to],
    );
    // Arrays one behind the other: put together as text, since nothing here needs to look into them.
    const inside = rows.map(({ patches }) => patches.trim().slice(1, -1)).filter((text) => text.trim());
    response.send(`{"patches":[${inside.join(',')}]}`);
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

  on(router, 'describe', async ({ body: { masters, ...said }, request }) => {
    const { name } = personOf(request);
    const failed: { master: string; message: string }[] = [];
    let changed = 0;
    // One after the other, each whole: what one of them lacks keeps nothing from the others.
    for (const master of masters)
      await journal.run('describe', { master, author: name, said }, { queueKey: master }).then(
        (done) => void (done && changed++),
        (error: Error) => failed.push({ master, message: error.message }),
      );
    return { changed, failed };
  });

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

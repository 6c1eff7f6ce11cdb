import type { Request, Router } from 'express';
import { BRING_IN_LIMIT } from '@inkwell-twin/api';
import {
  Failure,
  type History,
  type Master,
  allItems,
  asFailure,
  fileName,
  looksNative,
  newId,
  newMaster,
  readPackage,
} from '@inkwell-twin/core';
import type { AnswerOf, DeskRow } from '@inkwell-twin/api';
import { blobChunks, storeBlob } from '../blobs/blobs';
import { identify } from '../identify/identify';
import { type LoadedMaster, revisionOf } from '../masters/store';
import { updateMaster } from '../masters/updates';
import type { Workshop } from '../workshop';
import { readUpload } from './upload';
import { on } from './handle';

const revisionsOf = ({ revisions }: LoadedMaster) =>
  revisions.map(({ rev, time, author, message }) => ({ rev, time, author, message }));

/** Adds a master with its first revision, and its file on the shelf. */
async function keep(
  workshop: Workshop,
  master: Master,
  message: string,
  original?: { bytes: Uint8Array; name: string; mediaType: string },
): Promise<void> {
  const { database, masters } = workshop;
  const folder = await freeFolder(workshop, master.title);
  await database.transaction(async (client) => {
    const sha = original && (await storeBlob(client, original.bytes));
    const resources =
      original && sha
        ? [
            {
              id: sha,
              name: original.name,
              mediaType: original.mediaType,
              size: original.bytes.length,
              role: 'original' as const,
            },
          ]
        : [];
    const first = { ...master, resources };
    const history: History = {
      first,
      revisions: [{ rev: 1, time: new Date().toISOString(), author: master.owner, message, patches: [] }],
    };
    await masters.add(client, folder, history);
    if (original && sha)
      await client.query('insert into original (master, sha256, name, media_type) values ($1, $2, $3, $4)', [
        master.id,
        sha,
        original.name,
        original.mediaType,
      ]);
  });
  workshop.files.soon(master.id);
  workshop.events.send({ kind: 'master', master: master.id });
}

/** A native file comes in with its history and its originals, as the same master. */
async function bringInMaster(workshop: Workshop, bytes: Uint8Array): Promise<AnswerOf<'bringIn'>> {
  const { database, masters } = workshop;
  const { master, rev, time, history, resources } = readPackage(bytes);
  const [there] = await database.rows<{ title: string; head: number }>('select title, head from master where id = $1', [
    master.id,
  ]);
  if (there)
    throw new Failure(
      'name-taken',
      `This master is on the Desk already, as “${there.title}” at r${there.head}; the file holds r${rev}. Nothing was changed.`,
    );
  const whole: History = history ?? {
    first: master,
    revisions: [{ rev: 1, time, author: master.owner, message: `Brought in at r${rev}`, patches: [] }],
  };
  const folder = await freeFolder(workshop, master.title);
  await database.transaction(async (client) => {
    await masters.add(client, folder, whole);
    for (const { id, name, mediaType } of master.resources) {
      const original = resources.get(id);
      if (!original) throw new Failure('package-damaged', `The package lacks the original ${name}.`, { node: id });
      await storeBlob(client, original);
      await client.query('insert into original (master, sha256, name, media_type) values ($1, $2, $3, $4)', [
        master.id,
        id,
        name,
        mediaType,
      ]);
    }
  });
  workshop.files.soon(master.id);
  workshop.events.send({ kind: 'master', master: master.id });
  return { id: master.id, title: master.title, objects: countObjects(master), notUnderstood: [] };
}

const countObjects = ({ boards }: Master): number => boards.reduce((sum, board) => sum + [...allItems(board.items)].length, 0);

/** A folder of its own on the shelf, named after the title. */
async function freeFolder({ database, shelf }: Workshop, title: string): Promise<string> {
  const taken = await database.rows<{ folder: string }>('select folder from master');
  return shelf.freeFolder(
    fileName('{title}', { title }, 'x').slice(0, -2),
    taken.map((row) => row.folder),
  );
}

/** The name that an uploaded file had, without what could lead elsewhere. */
const nameOf = ({ query }: Request): string =>
  String(query['name'] ?? 'drawing')
    .replace(/[\\/\0]/g, '_')
    .slice(0, 200);

export function masterRoutes(router: Router, workshop: Workshop): void {
  const { masters, drafts, copies, database, compute } = workshop;
  const pictures = new Map<string, string>();

  const deskRow = async (id: string): Promise<DeskRow> => {
    const master = await masters.load(id);
    const draft = await drafts.find(id);
    return {
      id,
      title: master.title,
      owner: master.head.master.owner,
      folder: master.folder,
      revisions: revisionsOf(master),
      copies: (await copies.ofMaster(id)).map((row) => copies.view(row, master)),
      draftChanges: draft?.position ?? 0,
      picture: `/api/masters/${id}/picture.svg?rev=${master.head.rev}`,
    };
  };

  on(router, 'desk', async () => {
    const rows: DeskRow[] = [];
    const damaged: AnswerOf<'desk'>['damaged'] = [];
    for (const { id, title } of await masters.list())
      try {
        rows.push(await deskRow(id));
      } catch (error) {
        workshop.log(`master ${id}`, error);
        damaged.push({ id, title, message: asFailure(error).message });
      }
    return { masters: rows, damaged, shelf: workshop.shelf.root };
  });

  router.get('/api/masters/:id/picture.svg', (request, response, next) => {
    const run = async () => {
      const { id, head } = await masters.load(request.params.id);
      const key = `${id} ${head.rev}`;
      let picture = pictures.get(key);
      if (!picture) {
        const recipe = { id: 'picture', target: 'svg', options: { text: 'outlines', precision: 2 }, board: '' };
        const { bytes } = await compute.run('derive', { master: head.master, rev: head.rev, time: head.time, recipe });
        picture = Buffer.from(bytes).toString('utf8');
        for (const old of pictures.keys()) if (old.startsWith(id)) pictures.delete(old);
        pictures.set(key, picture);
      }
      response.type('image/svg+xml').set('Cache-Control', 'private, max-age=86400').send(picture);
    };
    run().catch(next);
  });

  on(router, 'newMaster', async ({ body }) => {
    const master = newMaster(newId(), body.title, body.owner, body.purpose);
    await keep(workshop, master, 'Started');
    return { id: master.id };
  });

  on(router, 'identify', async ({ request }) => identify(workshop, await readUpload(request, BRING_IN_LIMIT), nameOf(request)));

  on(router, 'bringIn', async ({ request }) => {
    const name = nameOf(request);
    const bytes = await readUpload(request, BRING_IN_LIMIT);
    if (looksNative(bytes)) return bringInMaster(workshop, bytes);
    const { master, notUnderstood, mediaType } = await compute.run('bringIn', { bytes, name });
    const kept = { ...master, id: newId() };
    await keep(workshop, kept, `Brought in from ${name}`, { bytes, name, mediaType });
    return { id: kept.id, title: kept.title, objects: countObjects(kept), notUnderstood: [...notUnderstood] };
  });

  on(router, 'master', async ({ params }) => {
    const master = await masters.load(params['id']!);
    const draft = await drafts.find(master.id);
    return {
      id: master.id,
      title: master.title,
      file: workshop.shelf.masterFile(master.folder),
      head: master.head.rev,
      document: master.head.master as unknown as Record<string, unknown>,
      revisions: revisionsOf(master),
      copies: (await copies.ofMaster(master.id)).map((row) => copies.view(row, master)),
      draft: draft && { ...draft, steps: [...draft.steps] },
    };
  });

  on(router, 'revision', async ({ params }) => {
    const rev = Number(params['rev']);
    return {
      document: revisionOf(await masters.load(params['id']!), rev).master as unknown as Record<string, unknown>,
    };
  });

  on(router, 'original', async ({ params, response }) => {
    const [row] = await database.rows<{ name: string }>('select name from original where master = $1 and sha256 = $2', [
      params['id'],
      params['sha'],
    ]);
    if (!row) throw new Failure('not-found', 'This master keeps no such original.');
    response.attachment(row.name).type('application/octet-stream');
    for await (const chunk of blobChunks(database, params['sha']!)) response.write(chunk);
    response.end();
  });

  on(router, 'draft', async ({ params }) => {
    const draft = await drafts.find(params['id']!);
    return { draft: draft && { ...draft, steps: [...draft.steps] } };
  });
  on(router, 'addSteps', async ({ params, body }) => ({
    position: await drafts.add(params['id']!, body.base, body.position, body.steps),
  }));
  on(router, 'moveDraft', async ({ params, body }) => ({
    position: await drafts.moveTo(params['id']!, body.position),
  }));
  on(router, 'discardDraft', async ({ params }) => {
    await drafts.discard(params['id']!);
    return { done: true as const };
  });

  on(router, 'update', async ({ params, body }) => {
    const id = params['id']!;
    const rev = await updateMaster(database, masters, drafts, id, body);
    workshop.files.soon(id);
    const job = await workshop.checkAll(id);
    workshop.events.send({ kind: 'master', master: id });
    return { rev, job };
  });
}

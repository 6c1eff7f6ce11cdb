// Longer than most: one sequence on one server, each part on what the last one left.
import { createHash } from 'node:crypto';
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { Desk, DraftView, ErrorBody, MasterView } from '@inkwell-twin/api';
import { type Master, type Patch, type Step, applyPatches, readPackage, setAttribute, stepOf } from '@inkwell-twin/core';
import { Database, migrate } from '../src';
import { EMPTY, freshDatabase } from './database';
import { BRAM, TestServer } from './harness';

const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
const dxf = readFileSync(join(__dirname, '../../core/test/fixtures/gate.dxf'));
let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('masters');
});
afterAll(() => server.close());

const open = async (id: string) => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
const documentOf = (id: string, rev?: number) => server.document(id, rev);
const draftOf = async (id: string): Promise<DraftView | null> =>
  (await server.call<{ draft: DraftView | null }>('GET', `/api/masters/${id}/draft`)).body.draft;
async function newMaster(title: string): Promise<string> {
  return (await server.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'panel', owner: 'Ines Okoro' })).body.id;
}
/** A step that renames the board, as the browser would send it. */
async function renaming(id: string, name: string, from?: Master) {
  const now = from ?? (await documentOf(id));
  const { label, patches } = setAttribute(now, 'board-1', 'name', name);
  return stepOf(now, label, patches);
}
/** These steps, in one's draft. */
async function added(id: string, base: number, steps: Step[]): Promise<Step[]> {
  expect((await server.addSteps(id, base, [], steps)).status).toBe(200);
  return steps;
}
const shelfBytes = (file: string): Uint8Array =>
  new Uint8Array(readFileSync(join(server.workshop.shelf.root, file.replace('.inkwell', ''), file)));

describe('health', () => {
  it('answers once the server can work', async () =>
    expect((await server.call('GET', '/api/health')).body).toEqual({ status: 'ok' }));
  it('describes its routes', async () =>
    expect((await server.call<{ paths: object }>('GET', '/api/openapi.json')).body.paths).toHaveProperty(
      '/api/masters/{id}/update',
    ));
});

describe('migrations', () => {
  it('run once, and again change nothing', async () => {
    const { owner } = await freshDatabase('migrated_here', EMPTY);
    await migrate(owner);
    const database = new Database(owner, 1);
    const names = await database.rows<{ name: string }>('select name from migration');
    expect(names.length).toBeGreaterThan(17);
    expect(names.map(({ name }) => name)).toEqual(readdirSync(join(__dirname, '../sql')).sort());
    await migrate(owner);
    expect(await database.rows('select name from migration')).toHaveLength(names.length);
    await database.close();
  });
});

describe('the past of a master', () => {
  const updated = async (id: string, base: number, name: string) => {
    const steps = await added(id, base, [(await renaming(id, name)).step]);
    expect((await server.update(id, base, steps, `Called ${name}`)).status).toBe(200);
  };

  it('goes on in another master, which leaves this one byte for byte as it was', async () => {
    const id = await newMaster('Gate');
    await updated(id, 1, 'North');
    await updated(id, 2, 'South');
    await server.idle();
    const before = [await documentOf(id), (await open(id)).revisions, shelfBytes((await open(id)).file)];
    const start = async (body: object) =>
      (
        await server.call<{ id: string }>('POST', `/api/masters/${id}/another`, {
          title: 'Gate two',
          owner: 'Bram Adler',
          history: true,
          ...body,
        })
      ).body.id;

    const whole = await start({});
    expect((await open(whole)).revisions.map(({ message }) => message)).toEqual([
      'Started',
      'Called North',
      'Called South',
      'Started from “Gate” at r3',
    ]);
    expect((await documentOf(whole, 2)).boards[0]!.name).toBe('North');
    expect(await documentOf(whole)).toMatchObject({
      id: whole,
      title: 'Gate two',
      owner: 'Bram Adler',
      boards: [{ name: 'South' }],
    });
    const bare = await start({ history: false, rev: 2, title: 'Gate three' });
    expect((await open(bare)).revisions.map(({ message }) => message)).toEqual(['Started from “Gate” at r2']);
    expect((await documentOf(bare)).boards[0]!.name).toBe('North');
    expect(
      (await server.call('POST', `/api/masters/${id}/another`, { title: 'x', owner: '', history: true, rev: 9 })).status,
    ).toBe(404);

    // Each goes its own way from here.
    await updated(whole, 4, 'West');
    await server.idle();
    expect([await documentOf(id), (await open(id)).revisions, shelfBytes((await open(id)).file)]).toEqual(before);
    const pkg = readPackage(shelfBytes((await open(whole)).file));
    expect([pkg.master.id, pkg.history!.first.id, pkg.history!.revisions.length]).toEqual([whole, whole, 5]);
  });

  it('has names, given at any time, which go into the file and not into what was', async () => {
    const id = await newMaster('Named');
    await updated(id, 1, 'North');
    expect((await server.call('PUT', `/api/masters/${id}/revisions/1/name`, { name: ' As sent to the joiner ' })).status).toBe(
      200,
    );
    expect((await open(id)).revisions.map(({ name }) => name)).toEqual(['As sent to the joiner', '']);
    await server.idle();
    const pkg = readPackage(shelfBytes((await open(id)).file));
    expect(pkg.history!.revisions.map(({ name }) => name)).toEqual(['As sent to the joiner', undefined]);
    expect((await server.call('PUT', `/api/masters/${id}/revisions/7/name`, { name: 'x' })).status).toBe(404);
    await server.call('PUT', `/api/masters/${id}/revisions/1/name`, { name: '' });
    expect((await open(id)).revisions[0]!.name).toBe('');
  });

  it('is told object by object', async () => {
    const id = await newMaster('Told');
    await updated(id, 1, 'North');
    await updated(id, 2, 'South');
    const of = async (node: string) =>
      (
        await server.call<{ revisions: { rev: number; how: string }[] }>('GET', `/api/masters/${id}/history/${node}`)
      ).body.revisions.map(({ rev, how }) => `r${rev} ${how}`);
    expect(await of('board-1')).toEqual(['r3 name North → South', 'r2 name Front → North', 'r1 there from the beginning']);
    expect(await of('layer-1')).toEqual(['r1 there from the beginning']);
    expect(await of('nothing-such')).toEqual([]);
  });
});

describe('changes between revisions', () => {
  it('lead from one document to the other, and are asked for in words that fit', async () => {
    const id = await newMaster('Changes');
    for (const [rev, name] of ['Back', 'Side', 'Top'].entries())
      expect((await server.update(id, rev + 1, await added(id, rev + 1, [(await renaming(id, name)).step]))).status).toBe(200);
    const { body } = await server.call<{ patches: Patch[] }>('GET', `/api/masters/${id}/changes/1/4`);
    expect(body.patches).toHaveLength(3);
    expect(applyPatches(await documentOf(id, 1), body.patches).master).toEqual(await documentOf(id, 4));
    expect((await server.call('GET', `/api/masters/${id}/changes/2/2`)).body).toEqual({ patches: [] });
    const status = async (path: string) => (await server.call('GET', `/api/masters/${path}`)).status;
    expect(await status(`${id}/changes/1/5`)).toBe(404);
    expect(await status(`nobody/changes/1/2`)).toBe(404);
    expect(await status(`${id}/changes/3/2`)).toBe(400);
    expect(await status(`${id}/changes/x/2`)).toBe(400);
  });
  it('that weigh more than a document are not sent', async () => {
    const id = await newMaster('Much');
    const long = 'a'.repeat(1.2 * 1024 * 1024);
    await server.workshop.database.query(
      `insert into revision (master, rev, time, author, message, patches)
       values ($1, 2, now(), '', '', jsonb_build_array(jsonb_build_object('op', 'set', 'value', $2::text)))`,
      [id, long],
    );
    await server.workshop.database.query('update master set head = 2 where id = $1', [id]);
    expect((await server.call('GET', `/api/masters/${id}/changes/1/2`)).body).toEqual({ patches: null });
    // A record like this can't be read: it would be in the way of the tests that follow.
    expect((await server.call('POST', `/api/masters/${id}/set-aside`)).status).toBe(200);
    expect((await server.call('DELETE', `/api/masters/${id}`)).status).toBe(200);
  });
});

describe('bringing in', () => {
  it('keeps the supplied bytes as they came, and gives them out again', async () => {
    const { status, body } = await server.bringIn<{ id: string; notUnderstood: { kind: string }[] }>('weathervane.svg', drawing);
    expect(status).toBe(200);
    expect(body.notUnderstood.map(({ kind }) => kind)).toContain('picture in another file');
    const sha = createHash('sha256').update(drawing).digest('hex');
    const answer = await fetch(`${server.url}/api/masters/${body.id}/originals/${sha}`);
    expect(Buffer.from(await answer.arrayBuffer()).equals(drawing)).toBe(true);
    const { file } = await open(body.id);
    await server.idle();
    const pkg = readPackage(readFileSync(join(server.shelf, file.replace('.inkwell', ''), file)));
    expect(Buffer.from(pkg.resources.get(sha)!).equals(drawing)).toBe(true);
  });

  it('stores the same bytes once', async () => {
    const chunks = async () =>
      Number((await server.workshop.database.rows<{ count: string }>('select count(*) from chunk'))[0]!.count);
    await server.bringIn('gate.dxf', dxf);
    const before = await chunks();
    await server.bringIn('gate again.dxf', dxf);
    expect(await chunks()).toBe(before);
    await server.idle();
    expect(readdirSync(server.shelf)).toEqual(expect.arrayContaining(['gate', 'gate_again']));
  });

  it('takes a native file back with its history and its originals, and refuses the one it has already', async () => {
    const { body } = await server.bringIn('vane.svg', drawing);
    const { id, file } = await open(body.id);
    const { step } = await renaming(id, 'Face');
    await server.addSteps(id, 1, [], [step], BRAM);
    await server.update(id, 1, [step], 'Named', BRAM);
    await server.idle();
    const bytes = readFileSync(join(server.shelf, file.replace('.inkwell', ''), file));
    expect(await server.bringIn<ErrorBody>(file, bytes)).toMatchObject({
      status: 409,
      body: { error: { message: expect.stringContaining('on the Desk already') } },
    });
    await server.workshop.database.rows('delete from master where id = $1', [id]);
    expect(await server.bringIn(file, bytes)).toMatchObject({ status: 200, body: { id } });
    expect((await open(id)).revisions).toMatchObject([{ rev: 1 }, { rev: 2, author: 'Bram Adler', message: 'Named' }]);
    const sha = createHash('sha256').update(drawing).digest('hex');
    expect((await fetch(`${server.url}/api/masters/${id}/originals/${sha}`)).status).toBe(200);
    const entries = unzipSync(bytes);
    entries['manifest.json'] = strToU8(strFromU8(entries['manifest.json']!).replace('"version": 3', '"version": 9'));
    const newer = await server.bringIn<ErrorBody>('x.inkwell', zipSync(entries));
    expect(newer).toMatchObject({
      status: 400,
      body: { error: { code: 'newer-version', message: expect.stringContaining('native version 9') } },
    });
  });

  it('refuses a native file whose history does not lead to its document, or is none, and says where', async () => {
    const { body } = await server.bringIn('vane twice.svg', drawing);
    const { id, file } = await open(body.id);
    const { step } = await renaming(id, 'Face');
    await server.addSteps(id, 1, [], [step]);
    await server.update(id, 1, [step]);
    await server.idle();
    const bytes = readFileSync(join(server.shelf, file.replace('.inkwell', ''), file));
    const count = async () => (await server.workshop.database.rows('select id from master')).length;
    const before = await count();
    type Parts = { history: { revisions: { rev: number; patches: { value?: string; node: string }[] }[] }; master: Master };
    const broken = async (change: (parts: Parts) => void) => {
      const entries = unzipSync(bytes);
      const parts = {
        history: JSON.parse(strFromU8(entries['history/history.json']!)),
        master: JSON.parse(strFromU8(entries['master.json']!)),
      } as Parts;
      parts.master.id = (parts.history as never as { first: Master }).first.id = 'another-master';
      change(parts);
      const manifest = JSON.parse(strFromU8(entries['manifest.json']!)) as {
        entries: { path: string; size: number; sha256: string }[];
      };
      for (const [path, value] of [
        ['history/history.json', parts.history],
        ['master.json', parts.master],
      ] as const) {
        entries[path] = strToU8(JSON.stringify(value));
        const entry = manifest.entries.find((one) => one.path === path)!;
        Object.assign(entry, { size: entries[path].length, sha256: createHash('sha256').update(entries[path]).digest('hex') });
      }
      entries['manifest.json'] = strToU8(JSON.stringify(manifest));
      const answer = await server.bringIn<ErrorBody>('x.inkwell', zipSync(entries));
      return [answer.status, answer.body.error?.message];
    };
    expect(await broken(({ history }) => (history.revisions[1]!.patches[0]!.value = 'Back'))).toEqual([
      400,
      expect.stringMatching(/does not lead to the document: they part at “Face”. Nothing was kept/),
    ]);
    expect(await broken(({ history }) => (history.revisions[1]!.patches[0]!.node = 'nobody'))).toEqual([
      400,
      expect.stringContaining('damaged at r2'),
    ]);
    expect(await broken(({ history }) => (history.revisions[1]!.rev = 7))).toEqual([
      400,
      expect.stringContaining('no proper r2'),
    ]);
    expect(await broken(({ history }) => history.revisions.pop())).toEqual([400, expect.stringContaining('ends at r1')]);
    expect(await count()).toBe(before);
    expect((await broken(() => undefined))[0]).toBe(200);
  });

  it.each<[string, string | Uint8Array, number, string]>([
    [
      'nothing that is known',
      Uint8Array.from({ length: 64 }, (_, i) => (i * 7) % 256),
      400,
      'can’t become a master'.replace('’', "'"),
    ],
    ['a cut-off DXF', dxf.subarray(0, 900), 400, "can't be read further"],
    [
      'an entity bomb',
      `<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa">${[...'bcdefghi'].map((name, i) => `<!ENTITY ${name} "${`&${'abcdefgh'[i]};`.repeat(10)}">`).join('')}]><svg xmlns="http://www.w3.org/2000/svg">&i;</svg>`,
      400,
      'comes to too much',
    ],
    ['a size of nothing', '<svg xmlns="http://www.w3.org/2000/svg" width="0" height="5"/>', 400, 'size'],
    ['nothing', '', 400, 'empty'],
    ['200 MB', new Uint8Array(200 * 1024 * 1024), 413, 'at most 64 MB'],
  ])('refuses %s in words, keeps nothing of it, and lives', async (name, bytes, status, words) => {
    const count = async () => (await server.workshop.database.rows('select id from master')).length;
    await server.idle();
    const [masters, folders] = [await count(), readdirSync(server.shelf).length];
    const answer = await server.bringIn<ErrorBody>(`${name}.svg`, bytes);
    expect(answer.status).toBe(status);
    expect(ErrorBody.parse(answer.body).error.message).toContain(words);
    expect([await count(), readdirSync(server.shelf).length]).toEqual([masters, folders]);
    expect((await server.call('GET', '/api/health')).status).toBe(200);
  });
});

describe('a master whose record is damaged', () => {
  it('says why when it is opened, is named on the Desk, can be set aside and deleted, and keeps nothing from the others', async () => {
    const [sound, broken] = [await newMaster('Sound'), await newMaster('Broken')];
    await server.idle();
    await server.workshop.database.rows("update revision set document = '{}' where master = $1", [broken]);
    await server.stop();
    await server.start();
    const answer = await server.call<ErrorBody>('GET', `/api/masters/${broken}/revisions/1`);
    expect([answer.status, answer.body.error.code]).toEqual([500, 'record-damaged']);
    const desk = async (state = 'live') => Desk.parse((await server.call('GET', `/api/desk?state=${state}`)).body);
    const { masters, notices } = await desk();
    expect(masters.map(({ id }) => id)).toEqual(expect.arrayContaining([sound, broken]));
    expect(notices).toMatchObject([
      { master: broken, message: expect.stringContaining('The record of “Broken” is damaged at r1') },
    ]);
    expect((await documentOf(sound)).title).toBe('Sound');
    // Only what was set aside can be deleted.
    expect((await server.call('DELETE', `/api/masters/${broken}`)).status).toBe(409);
    expect((await server.call('POST', `/api/masters/${broken}/set-aside`)).status).toBe(200);
    expect((await desk()).masters.map(({ id }) => id)).not.toContain(broken);
    expect(await desk('aside')).toMatchObject({ aside: 1, masters: [{ id: broken }] });
    await server.call('POST', `/api/masters/${broken}/bring-back`);
    expect((await desk()).masters.map(({ id }) => id)).toContain(broken);
    await server.call('POST', `/api/masters/${broken}/set-aside`);
    expect((await server.call('DELETE', `/api/masters/${broken}`)).status).toBe(200);
    expect(await desk('aside')).toMatchObject({ aside: 0, masters: [] });
    expect(readdirSync(join(server.shelf, 'broken'))).toEqual(['broken.inkwell']);
    await server.idle();
    server.problems.length = 0;
  });
});

describe('a Desk of many masters', () => {
  it('comes page by page, each master once, and finds any by a part of its name or owner', async () => {
    const made = await Promise.all(Array.from({ length: 30 }, (_, i) => newMaster(`Post sign ${String(i).padStart(2, '0')}`)));
    const desk = async (query: string) => Desk.parse((await server.call('GET', `/api/desk${query}`)).body);
    const seen: string[] = [];
    let next: string | null = '';
    for (let pages = 0; next !== null && pages < 9; pages++) {
      const page: Desk = await desk(next ? `?after=${encodeURIComponent(next)}` : '');
      expect(page.masters.length).toBeLessThanOrEqual(24);
      seen.push(...page.masters.map(({ id }) => id));
      ({ next } = page);
    }
    expect(new Set(seen).size).toBe(seen.length);
    expect(seen).toEqual(expect.arrayContaining(made));
    expect((await desk('')).total).toBe(seen.length);
    expect((await desk('?find=SIGN%2017')).masters.map(({ title }) => title)).toEqual(['Post sign 17']);
    expect((await desk('?find=okoro')).masters).toHaveLength(24);
    expect((await desk('?find=%25')).masters).toEqual([]);
    expect((await server.call('GET', '/api/desk?after=yesterday')).status).toBe(400);
    const { body: row } = await server.call<{ title: string }>('GET', `/api/desk/${made[3]}`);
    expect(row.title).toBe('Post sign 03');
    // A row is on the Desk as long as its master is: what is told of one that was set aside does not put it back.
    await server.call('POST', `/api/masters/${made[3]}/set-aside`);
    expect((await server.call('GET', `/api/desk/${made[3]}`)).status).toBe(404);
    expect((await server.call('GET', `/api/desk/${made[3]}?state=aside`)).status).toBe(200);
    expect((await server.call('GET', `/api/desk/${made[3]}?state=away`)).status).toBe(400);
  });
});

describe('drafts', () => {
  it('hold every acknowledged step, in order, over a restart', async () => {
    const id = await newMaster('Kept');
    const first = await renaming(id, 'Front A');
    const second = await renaming(id, 'Front B', first.master);
    expect((await server.addSteps(id, 1, [], [first.step])).body.position).toBe(1);
    expect((await server.addSteps(id, 1, [first.step], [second.step])).body.position).toBe(2);
    await server.stop();
    await server.start();
    const draft = DraftView.parse(await draftOf(id));
    expect(draft).toMatchObject({ base: 1, position: 2, steps: [{ label: first.step.label }, { label: second.step.label }] });
    expect((await documentOf(id)).boards[0]!.name).toBe('Front');
  });

  it('undo and redo across a reload; a new step forgets what was undone', async () => {
    const id = await newMaster('Undone');
    const first = await renaming(id, 'A');
    const second = await renaming(id, 'B', first.master);
    const hashes = await server.hashes(id, 1, [first.step, second.step]);
    await server.addSteps(id, 1, [], [first.step, second.step]);
    const moved = { position: 1, hash: hashes[1] };
    expect((await server.call('PUT', `/api/masters/${id}/draft/position`, moved)).status).toBe(200);
    await server.addSteps(id, 1, [first.step], [(await renaming(id, 'C', first.master)).step]);
    expect((await draftOf(id))!.steps.map(({ label }) => label.replace(/.*now /, ''))).toEqual(['A', 'C']);
    expect((await server.call('PUT', `/api/masters/${id}/draft/position`, { ...moved, position: 5 })).status).toBe(409);
  });

  it('refuse a step that can’t be done, and stay as they were', async () => {
    const id = await newMaster('Whole');
    const { step } = await renaming(id, 'A');
    const wrong = { ...step, forward: [{ op: 'set', node: 'board-1', attribute: 'width', value: -5 }] };
    expect((await server.addSteps(id, 1, [], [step, wrong as Step])).status).toBe(400);
    expect(await draftOf(id)).toBeNull();
    expect((await server.addSteps(id, 7, [], [step])).status).toBe(409);
    expect((await server.addSteps(id, 1, [step], [step])).status).toBe(409);
    expect(await draftOf(id)).toBeNull();
  });
});

describe('updating', () => {
  it('writes the next revision with only what changed, under the same name, and keeps the earlier ones', async () => {
    const id = await newMaster('Grown');
    const { step, master } = await renaming(id, 'Face');
    await server.addSteps(id, 1, [], [step], BRAM);
    expect(await server.update(id, 1, [step], 'A better name', BRAM)).toMatchObject({ status: 200, body: { rev: 2 } });
    await server.idle();
    expect(await open(id)).toMatchObject({
      head: 2,
      draftChanges: 0,
      revisions: [{ rev: 1 }, { rev: 2, author: 'Bram Adler', message: 'A better name' }],
    });
    expect(await documentOf(id)).toEqual(master);
    expect((await documentOf(id, 1)).boards[0]!.name).toBe('Front');
    const [row] = await server.workshop.database.rows<{ patches: unknown; document: unknown }>(
      'select patches, document from revision where master = $1 and rev = 2',
      [id],
    );
    expect(row).toEqual({ patches: [{ op: 'set', node: 'board-1', attribute: 'name', value: 'Face' }], document: null });
    expect(readPackage(readFileSync(join(server.shelf, 'grown/grown.inkwell'))).rev).toBe(2);
  });

  it('brings the file on the shelf up to date at the next start when a stop came in between', async () => {
    const id = await newMaster('Cut short');
    const { step } = await renaming(id, 'Face');
    await server.addSteps(id, 1, [], [step]);
    await server.update(id, 1, [step]);
    await server.idle();
    const file = join(server.shelf, 'cut_short/cut_short.inkwell');
    const whole = readFileSync(file);
    writeFileSync(file, '');
    // As a kill would leave it: the revision is on record, the file is not written yet.
    await server.workshop.database.rows('update master set file_rev = 1, file_sha256 = $2 where id = $1', [
      id,
      createHash('sha256').update('').digest('hex'),
    ]);
    await server.stop();
    await server.start();
    await server.idle();
    expect(readFileSync(file).equals(whole)).toBe(true);
  });

  it('refuses what does not fit, and keeps the draft', async () => {
    const id = await newMaster('Contested');
    const { step } = await renaming(id, 'Mine');
    await server.addSteps(id, 1, [], [step]);
    expect((await server.update(id, 2, [step])).status).toBe(409);
    expect((await server.update(id, 1, [step, step])).status).toBe(409);
    expect((await draftOf(id))!.position).toBe(1);
    expect((await server.update(id, 1, [step])).status).toBe(200);
    const again = await server.update(id, 2, [step]);
    expect(again.body).toMatchObject({ error: { code: 'nothing-to-update' } });
  });

  it('does not write over a master’s file that another program changed', async () => {
    const id = await newMaster('Foreign');
    const file = join(server.shelf, 'foreign/foreign.inkwell');
    await server.idle();
    writeFileSync(file, 'someone’s work');
    const { step } = await renaming(id, 'Face');
    await server.addSteps(id, 1, [], [step]);
    await server.update(id, 1, [step]);
    await server.idle();
    const { notices } = await open(id);
    expect(notices).toMatchObject([{ message: expect.stringContaining('foreign_set_aside.inkwell') }]);
    expect(readFileSync(join(server.shelf, 'foreign/foreign_set_aside.inkwell'), 'utf8')).toBe('someone’s work');
    expect(readPackage(readFileSync(file)).rev).toBe(2);
    expect((await server.call('DELETE', `/api/notices/${notices[0]!.id}`)).status).toBe(200);
    expect((await open(id)).notices).toEqual([]);
  });
});

describe('requests that are not as they should be', () => {
  it.each<[string, string, unknown, number]>([
    ['GET', '/api/masters/none', undefined, 404],
    ['GET', '/api/nowhere', undefined, 404],
    ['POST', '/api/masters', { title: '' }, 400],
    ['POST', '/api/masters', 'words', 400],
    ['POST', '/api/copies/none/derive', undefined, 404],
    ['GET', "/api/masters/x';drop table master;--", undefined, 404],
  ])('%s %s are answered in words', async (method, path, body, status) => {
    const answer = await server.call<ErrorBody>(method, path, body);
    expect(answer.status).toBe(status);
    expect(ErrorBody.parse(answer.body).error.message.length).toBeGreaterThan(10);
  });
  it('name the field and its limit', async () => {
    const body = { title: 'Wide', purpose: 'panel', owner: 'Ines Okoro', width: 1e6, height: 5 };
    const answer = await server.call<ErrorBody>('POST', '/api/masters', body);
    expect(answer.body.error.message).toBe(
      'The request is not as it should be: width is more than 100,000, the most that is allowed.',
    );
  });
  it('from another site are refused', async () => {
    const answer = await fetch(`${server.url}/api/desk`, { headers: { Origin: 'http://elsewhere.example' } });
    expect(answer.status).toBe(403);
  });
  it('meet a strict content security policy', async () => {
    const policy = (await fetch(`${server.url}/api/health`)).headers.get('content-security-policy')!;
    expect(policy).toContain("script-src 'self'");
    expect(policy).toContain("default-src 'self'");
  });
  it('left no surprise in the log', () => expect(server.problems).toEqual([]));
});

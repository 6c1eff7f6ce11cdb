import { createHash } from 'node:crypto';
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { type Desk, DraftView, ErrorBody, MasterView } from '@inkwell-twin/api';
import { type Master, readPackage, setAttribute, stepOf } from '@inkwell-twin/core';
import { TestServer } from './harness';

const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
const dxf = readFileSync(join(__dirname, '../../core/test/fixtures/gate.dxf'));
let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('masters');
});
afterAll(() => server.close());

const open = async (id: string) => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
const documentOf = async (id: string) => (await open(id)).document as unknown as Master;
async function newMaster(title: string): Promise<string> {
  return (await server.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'panel', owner: 'Ines Okoro' })).body.id;
}
/** A step that renames the board, as the browser would send it. */
async function renaming(id: string, name: string, from?: Master) {
  const now = from ?? (await documentOf(id));
  const { label, patches } = setAttribute(now, 'board-1', 'name', name);
  return stepOf(now, label, patches);
}
const addSteps = async (id: string, base: number, position: number, ...steps: unknown[]) =>
  server.call<{ position: number }>('POST', `/api/masters/${id}/draft/steps`, { base, position, steps });

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
    const names = await server.workshop.database.rows<{ name: string }>('select name from migration');
    expect(names.map(({ name }) => name)).toEqual(['001_masters_and_copies.sql', '002_native_file_revision.sql']);
    await server.stop();
    await server.start();
    expect(await server.workshop.database.rows('select name from migration')).toHaveLength(2);
  });
});

describe('bringing in', () => {
  it('keeps the supplied bytes as they came, and gives them out again', async () => {
    const { status, body } = await server.bringIn<{ id: string; notUnderstood: { kind: string }[] }>('weathervane.svg', drawing);
    expect(status).toBe(200);
    expect(body.notUnderstood.map(({ kind }) => kind)).toContain('element image');
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
    await addSteps(id, 1, 0, (await renaming(id, 'Face')).step);
    await server.call('POST', `/api/masters/${id}/update`, { base: 1, position: 1, message: 'Named', author: 'Bram Adler' });
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

  it.each<[string, string | Uint8Array, number, string]>([
    ['not a drawing', 'Dear all', 400, 'can’t become a master'.replace('’', "'")],
    ['a cut-off DXF', dxf.subarray(0, 900), 400, "can't be read further"],
    [
      'an entity bomb',
      '<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>',
      400,
      'entities',
    ],
    ['a path with NaN', '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L NaN 1"/></svg>', 400, 'is not a number'],
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
  it('is named on the Desk with the reason, and keeps nothing from the others', async () => {
    const [sound, broken] = [await newMaster('Sound'), await newMaster('Broken')];
    await server.idle();
    await server.workshop.database.rows("update revision set document = '{}' where master = $1", [broken]);
    await server.stop();
    await server.start();
    const { status, body } = await server.call<Desk>('GET', '/api/desk');
    expect(status).toBe(200);
    expect(body.masters.map(({ id }) => id)).toContain(sound);
    expect(body.damaged).toEqual([
      { id: broken, title: 'Broken', message: expect.stringContaining('The record of “Broken” is damaged at r1') },
    ]);
    expect((await server.call('GET', `/api/masters/${sound}`)).status).toBe(200);
    const answer = await server.call<ErrorBody>('GET', `/api/masters/${broken}`);
    expect([answer.status, answer.body.error.code]).toEqual([500, 'record-damaged']);
    expect(server.problems.length).toBeGreaterThan(0);
    server.problems.length = 0;
    await server.workshop.database.rows('delete from master where id = $1', [broken]);
  });
});

describe('drafts', () => {
  it('hold every acknowledged step, in order, over a restart', async () => {
    const id = await newMaster('Kept');
    const first = await renaming(id, 'Front A');
    const second = await renaming(id, 'Front B', first.master);
    expect((await addSteps(id, 1, 0, first.step)).body.position).toBe(1);
    expect((await addSteps(id, 1, 1, second.step)).body.position).toBe(2);
    await server.stop();
    await server.start();
    const draft = DraftView.parse((await server.call<{ draft: unknown }>('GET', `/api/masters/${id}/draft`)).body.draft);
    expect(draft).toMatchObject({ base: 1, position: 2, steps: [{ label: first.step.label }, { label: second.step.label }] });
    expect((await documentOf(id)).boards[0]!.name).toBe('Front');
  });

  it('undo and redo across a reload; a new step forgets what was undone', async () => {
    const id = await newMaster('Undone');
    const first = await renaming(id, 'A');
    await addSteps(id, 1, 0, first.step, (await renaming(id, 'B', first.master)).step);
    expect((await server.call('PUT', `/api/masters/${id}/draft/position`, { position: 1 })).status).toBe(200);
    await addSteps(id, 1, 1, (await renaming(id, 'C', first.master)).step);
    const { draft } = await open(id);
    expect(draft!.steps.map(({ label }) => label.replace(/.*now /, ''))).toEqual(['A', 'C']);
    expect((await server.call('PUT', `/api/masters/${id}/draft/position`, { position: 5 })).status).toBe(409);
  });

  it('refuse a step that can’t be done, and stay as they were', async () => {
    const id = await newMaster('Whole');
    const { step } = await renaming(id, 'A');
    const wrong = { ...step, forward: [{ op: 'set', node: 'board-1', attribute: 'width', value: -5 }] };
    const answer = await addSteps(id, 1, 0, step, wrong);
    expect(answer.status).toBe(400);
    expect((await open(id)).draft).toBeNull();
    expect((await addSteps(id, 7, 0, step)).status).toBe(409);
    expect((await addSteps(id, 1, 3, step)).status).toBe(409);
  });
});

describe('updating', () => {
  it('writes the next revision with only what changed, under the same name, and keeps the earlier ones', async () => {
    const id = await newMaster('Grown');
    const { step, master } = await renaming(id, 'Face');
    await addSteps(id, 1, 0, step);
    const answer = await server.call<{ rev: number }>('POST', `/api/masters/${id}/update`, {
      base: 1,
      position: 1,
      message: 'A better name',
      author: 'Bram Adler',
    });
    expect(answer).toMatchObject({ status: 200, body: { rev: 2 } });
    await server.idle();
    const view = await open(id);
    expect(view).toMatchObject({
      head: 2,
      draft: null,
      document: master,
      revisions: [{ rev: 1 }, { rev: 2, author: 'Bram Adler', message: 'A better name' }],
    });
    const old = await server.call<{ document: Master }>('GET', `/api/masters/${id}/revisions/1`);
    expect(old.body.document.boards[0]!.name).toBe('Front');
    const [row] = await server.workshop.database.rows<{ patches: unknown; document: unknown }>(
      'select patches, document from revision where master = $1 and rev = 2',
      [id],
    );
    expect(row).toEqual({ patches: [{ op: 'set', node: 'board-1', attribute: 'name', value: 'Face' }], document: null });
    expect(readPackage(readFileSync(join(server.shelf, 'grown/grown.inkwell'))).rev).toBe(2);
  });

  it('brings the file on the shelf up to date at the next start when a stop came in between', async () => {
    const id = await newMaster('Cut short');
    await addSteps(id, 1, 0, (await renaming(id, 'Face')).step);
    await server.call('POST', `/api/masters/${id}/update`, { base: 1, position: 1, message: '', author: '' });
    await server.idle();
    // As a kill would leave it: the revision is on record, the file is not written yet.
    const file = join(server.shelf, 'cut_short/cut_short.inkwell');
    const whole = readFileSync(file);
    await server.workshop.database.rows('update master set file_rev = 1 where id = $1', [id]);
    await server.stop();
    await server.start();
    await server.idle();
    expect(readFileSync(file).equals(whole)).toBe(true);
    expect(await server.workshop.files.isBehind(id)).toBe(false);
  });

  it('refuses when someone else updated in between, and keeps the draft', async () => {
    const id = await newMaster('Contested');
    const mine = await renaming(id, 'Mine');
    await addSteps(id, 1, 0, mine.step);
    expect(
      (await server.call('POST', `/api/masters/${id}/update`, { base: 2, position: 1, message: '', author: '' })).status,
    ).toBe(409);
    expect(
      (await server.call('POST', `/api/masters/${id}/update`, { base: 1, position: 2, message: '', author: '' })).status,
    ).toBe(409);
    expect((await open(id)).draft!.position).toBe(1);
    expect(
      (await server.call('POST', `/api/masters/${id}/update`, { base: 1, position: 1, message: '', author: '' })).status,
    ).toBe(200);
    expect(
      (await server.call<ErrorBody>('POST', `/api/masters/${id}/update`, { base: 2, position: 1, message: '', author: '' })).body
        .error.code,
    ).toBe('nothing-to-update');
  });

  it('does not write over a master’s file that another program changed', async () => {
    const id = await newMaster('Foreign');
    const file = join(server.shelf, 'foreign/foreign.inkwell');
    await server.idle();
    writeFileSync(file, 'someone’s work');
    await addSteps(id, 1, 0, (await renaming(id, 'Face')).step);
    const notices: string[] = [];
    const stop = server.workshop.events.listen((event) => event.kind === 'notice' && notices.push(event.message));
    await server.call('POST', `/api/masters/${id}/update`, { base: 1, position: 1, message: '', author: '' });
    await server.idle();
    stop();
    expect(notices).toEqual([expect.stringContaining('foreign_set_aside.inkwell')]);
    expect(readFileSync(join(server.shelf, 'foreign/foreign_set_aside.inkwell'), 'utf8')).toBe('someone’s work');
    expect(readPackage(readFileSync(file)).rev).toBe(2);
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

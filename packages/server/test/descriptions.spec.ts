import { existsSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { MasterView, OutsideDescription } from '@inkwell-twin/api';
import { readSidecar, saidOf, writeSidecar } from '@inkwell-twin/core';
import { TestServer, until } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('descriptions');
});
afterAll(() => server.close());

type Failures = { failed: { master: string; message: string }[] };
const begun = async (title: string): Promise<string> => {
  const { body } = await server.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'panel', owner: '' });
  await server.idle();
  return body.id;
};
const describeAs = async (ids: string[], said: object) => {
  await server.call('POST', '/api/describe', { masters: ids, ...said });
  await server.idle();
};
const all = async (): Promise<OutsideDescription[]> =>
  (await server.call<{ descriptions: OutsideDescription[] }>('GET', '/api/descriptions?all=yes')).body.descriptions;
const of = async (id: string) => (await all()).find(({ master }) => master === id);
const stands = (id: string, state: string) => until(async () => (await of(id))?.state === state, `${state} is told`);
const post = (what: string, masters: string[], more: object = {}) =>
  server.call<Failures>('POST', `/api/descriptions/${what}`, { masters, ...more });
const fileOf = async (id: string): Promise<string> => {
  const { folder } = (await server.call<MasterView>('GET', `/api/masters/${id}`)).body;
  return join(server.shelf, folder, `${folder.split('/').at(-1)}.xmp`);
};
const headOf = async (id: string) => (await server.call<MasterView>('GET', `/api/masters/${id}`)).body.head;

describe('descriptions outside', () => {
  it('reach a file only when they are written out; then what is not yet written is marked', async () => {
    const [one, two] = [await begun('Gate'), await begun('Rail')];
    await describeAs([one, two], { add: ['signs'], caption: 'At the gate', rights: 'Trust' });
    expect(await all()).toEqual([]);
    expect(existsSync(await fileOf(one))).toBe(false);
    expect((await post('write', [one, two])).body.failed).toEqual([]);
    for (const id of [one, two])
      expect(readSidecar(readFileSync(await fileOf(id), 'utf8'))).toEqual({
        keywords: ['signs'],
        caption: 'At the gate',
        rights: 'Trust',
      });
    expect((await all()).map(({ state }) => state)).toEqual(['in step', 'in step']);
    await describeAs([one], { caption: 'At the other gate' });
    await stands(one, 'pending');
    expect((await of(one))!.fields).toEqual([
      { field: 'caption', base: 'At the gate', inside: 'At the other gate', outside: 'At the gate', changed: 'inside' },
    ]);
    expect(readSidecar(readFileSync(await fileOf(one), 'utf8')).caption).toBe('At the gate');
    // By standing order from now on, and at once.
    expect((await post('order', [one], { on: true })).body.failed).toEqual([]);
    await stands(one, 'in step');
    await describeAs([one], { add: ['gates'] });
    await stands(one, 'in step');
    expect(readSidecar(readFileSync(await fileOf(one), 'utf8')).keywords).toEqual(['signs', 'gates']);
  });

  it('changed in the file and here are told as both sides, and settled field by field', async () => {
    const id = await begun('Post');
    await describeAs([id], { add: ['posts'], caption: 'A post', rights: 'Trust' });
    await post('write', [id]);
    const file = await fileOf(id);
    writeFileSync(
      file,
      writeSidecar({ keywords: ['posts', 'oak'], caption: 'An oak post', rights: 'Trust' }, readFileSync(file, 'utf8')),
    );
    await stands(id, 'outside');
    await describeAs([id], { caption: 'A larch post', rights: 'Fen Trust' });
    await stands(id, 'both');
    expect((await of(id))!.fields.map(({ field, changed }) => [field, changed])).toEqual([
      ['keywords', 'outside'],
      ['caption', 'both'],
      ['rights', 'inside'],
    ]);
    // Neither side is written over unasked, not by standing order either.
    const before = readFileSync(file, 'utf8');
    expect((await post('write', [id])).body.failed[0]!.message).toContain('changed by someone');
    await post('order', [id], { on: true });
    expect(readFileSync(file, 'utf8')).toBe(before);
    const head = await headOf(id);
    expect((await post('settle', [id], { choices: { caption: 'outside' } })).body.failed).toEqual([]);
    await server.idle();
    const now = { keywords: ['posts', 'oak'], caption: 'An oak post', rights: 'Fen Trust' };
    expect(saidOf(await server.document(id))).toEqual(now);
    expect(readSidecar(readFileSync(file, 'utf8'))).toEqual(now);
    expect([(await of(id))!.state, await headOf(id)]).toEqual(['in step', head + 1]);
    // Nothing to settle changes nothing.
    await post('settle', [id]);
    expect(await headOf(id)).toBe(head + 1);
  });

  it('are settled wholesale for many', async () => {
    const ids = await Promise.all(['Oak', 'Ash', 'Elm'].map(begun));
    await describeAs(ids, { caption: 'A tree' });
    await post('write', ids);
    for (const id of ids) {
      const file = await fileOf(id);
      writeFileSync(file, readFileSync(file, 'utf8').replace('A tree', 'A tall tree'));
    }
    await describeAs(ids, { caption: 'A small tree' });
    for (const id of ids) await stands(id, 'both');
    await post('settle', ids.slice(0, 2), { choices: { caption: 'outside', keywords: 'outside', rights: 'outside' } });
    await post('settle', ids.slice(2), { choices: { caption: 'inside', keywords: 'inside', rights: 'inside' } });
    await server.idle();
    const captions = await Promise.all(ids.map(async (id) => saidOf(await server.document(id)).caption));
    expect(captions).toEqual(['A tall tree', 'A tall tree', 'A small tree']);
    for (const [i, id] of ids.entries()) expect(readSidecar(readFileSync(await fileOf(id), 'utf8')).caption).toBe(captions[i]);
    for (const id of ids) await stands(id, 'in step');
  });

  it('in a file that came from elsewhere, that is damaged, or that is gone: each is told, and nothing is lost', async () => {
    const id = await begun('Bench');
    const file = await fileOf(id);
    await describeAs([id], { rights: 'Trust' });
    writeFileSync(file, writeSidecar({ keywords: ['benches'], caption: 'By the mere', rights: '' }, null));
    await until(async () => (await of(id)) !== undefined, 'the file is told');
    expect((await of(id))!.fields.map(({ field, changed }) => [field, changed])).toEqual([
      ['keywords', 'outside'],
      ['caption', 'outside'],
      ['rights', 'inside'],
    ]);
    await post('settle', [id]);
    await server.idle();
    expect(saidOf(await server.document(id))).toEqual({ keywords: ['benches'], caption: 'By the mere', rights: 'Trust' });
    writeFileSync(file, '<half of a');
    await stands(id, 'unreadable');
    expect((await post('write', [id])).body.failed[0]!.message).toContain('can’t be read');
    expect(readFileSync(file, 'utf8')).toBe('<half of a');
    rmSync(file);
    await stands(id, 'gone');
    await post('write', [id]);
    await stands(id, 'in step');
    // It goes along when its master is moved and renamed.
    await server.call('PUT', `/api/masters/${id}/place`, { place: 'Furniture', name: 'Bench by the mere', copies: 'follow' });
    await server.idle();
    expect(readdirSync(join(server.shelf, 'Furniture/Bench by the mere')).sort()).toEqual([
      'Bench by the mere.inkwell',
      'Bench by the mere.xmp',
    ]);
    expect((await of(id))!.state).toBe('in step');
  });
});

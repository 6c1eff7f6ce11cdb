import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Identified, MasterView } from '@inkwell-twin/api';
import { setAttribute, stepOf } from '@inkwell-twin/core';
import { TestServer, until } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('only_masters');
});
afterAll(() => server.close());

const begun = async (title: string): Promise<string> => {
  const { body } = await server.call<{ id: string }>('POST', '/api/masters', { title, purpose: 'panel', owner: '' });
  await server.idle();
  return body.id;
};
const viewOf = async (id: string) => (await server.call<MasterView>('GET', `/api/masters/${id}`)).body;
async function withCopy(title: string): Promise<{ id: string; copy: Buffer; file: string }> {
  const id = await begun(title);
  const wish = { target: 'svg', options: {}, scope: { of: 'boards', ids: [] }, label: 'proof' };
  await server.call('POST', `/api/masters/${id}/copies`, wish);
  await server.idle();
  const { folder, file, copies } = await viewOf(id);
  return { id, copy: readFileSync(join(server.shelf, folder, copies[0]!.file)), file: join(server.shelf, folder, file) };
}

describe('a derived copy never becomes its master', () => {
  it('not by lying in the place of the master’s file on the shelf: it is told, set aside, and the master written again', async () => {
    const { id, copy, file } = await withCopy('Gate');
    const before = await server.document(id);
    writeFileSync(file, copy);
    await until(async () => (await viewOf(id)).outside !== null, 'the file is told');
    expect((await viewOf(id)).outside!.trouble).toContain('not a master');
    expect(await server.document(id)).toEqual(before);
    const { step } = stepOf(before, 'Named', setAttribute(before, before.boards[0]!.id, 'name', 'Inside').patches);
    await server.addSteps(id, 1, [], [step]);
    await server.update(id, 1, [step]);
    await server.idle();
    const names = readdirSync(join(server.shelf, 'gate'));
    expect(names.filter((name) => name.endsWith('.inkwell')).sort()).toEqual(['gate.inkwell', 'gate_set_aside.inkwell']);
    expect(readFileSync(join(server.shelf, 'gate/gate_set_aside.inkwell')).equals(copy)).toBe(true);
    expect((await server.document(id)).boards[0]!.name).toBe('Inside');
  });

  it('not by being brought in under the master’s name: another master comes of it, and this one stays', async () => {
    const { id, copy, file } = await withCopy('Rail');
    const [before, bytes] = [await viewOf(id), readFileSync(file)];
    const answer = await fetch(`${server.url}/api/identify?name=rail.inkwell`, { method: 'POST', body: copy as never });
    expect(((await answer.json()) as Identified).master).toMatchObject({ id });
    const { body } = await server.bringIn<{ id: string }>('rail.inkwell', copy);
    await server.idle();
    expect(body.id).not.toBe(id);
    expect((await viewOf(id)).head).toBe(before.head);
    expect(readFileSync(file).equals(bytes)).toBe(true);
    expect((await viewOf(body.id)).folder).not.toBe(before.folder);
  });

  it('not by its name: whatever a copy is called, it ends otherwise than a master, and stays out of its place', async () => {
    const { id, file } = await withCopy('Post');
    const bytes = readFileSync(file);
    for (const label of ['post.inkwell', '../post', 'post', 'POST.INKWELL', '/post/post.inkwell']) {
      const wish = { target: 'svg', options: {}, scope: { of: 'boards', ids: [] }, label };
      await server.call('POST', `/api/masters/${id}/copies`, wish);
    }
    await server.idle();
    expect(readFileSync(file).equals(bytes)).toBe(true);
    for (const { file: name } of (await viewOf(id)).copies) expect(name).toMatch(/^[a-z0-9_.-]+\.svg$/);
  });
});

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Step, nodeHash, readPackage, setAttribute, stepOf } from '@inkwell-twin/core';
import { TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('second_life');
});
afterAll(() => server.close());

/** A step that gives the first board a name. */
async function naming(id: string, name: string): Promise<Step> {
  const now = await server.document(id);
  const { label, patches } = setAttribute(now, now.boards[0]!.id, 'name', name);
  return stepOf(now, label, patches).step;
}
async function renamed(id: string, base: number, name: string): Promise<Step> {
  const step = await naming(id, name);
  expect((await server.addSteps(id, base, [], [step])).status).toBe(200);
  expect((await server.update(id, base, [step])).body).toMatchObject({ rev: base + 1 });
  await server.idle();
  return step;
}
const boardOf = async (id: string, rev?: number) => (await server.document(id, rev)).boards[0]!.name;

it('a master that was deleted for good and is brought in again is never taken for its former self', async () => {
  const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
  const { id } = (await server.bringIn('vane.svg', drawing)).body;
  await renamed(id, 1, 'Backed up');
  const backup = new Uint8Array(await (await fetch(`${server.url}/api/masters/${id}/package`)).arrayBuffer());
  const lifeOf = async () => (await server.call<{ life: string }>('GET', `/api/masters/${id}`)).body.life;

  const lives = new Set<string>();
  for (const [round, name] of ['First life', 'Second life', 'Third life'].entries()) {
    // Everything that remembers is asked: documents, copies, the file on the shelf, drafts.
    const before = await server.hashes(id, 2, []);
    await renamed(id, 2, name);
    expect([await boardOf(id, 1), await boardOf(id, 2), await boardOf(id)]).toEqual([
      expect.not.stringMatching(/life|Backed/),
      'Backed up',
      name,
    ]);
    const recipe = { label: 'plan', target: 'svg' };
    expect((await server.call('POST', `/api/masters/${id}/copies`, recipe)).status).toBe(200);
    await server.idle();
    const view = (
      await server.call<{ folder: string; copies: { file: string; verdict: string; rev: number }[] }>('GET', `/api/masters/${id}`)
    ).body;
    expect(view.copies).toMatchObject([{ verdict: 'in step', rev: 3 }]);
    const file = readPackage(readFileSync(join(server.shelf, view.folder, `${view.folder.split('/').pop()}.inkwell`)));
    expect([file.rev, file.master.boards[0]!.name]).toEqual([3, name]);
    expect(nodeHash(file.master)).toBe(nodeHash(await server.document(id)));
    lives.add(await lifeOf());
    expect(lives.size).toBe(round + 1);

    // A draft on this life's newest revision, and a document that a window still has of it.
    const draft = await naming(id, 'Of an earlier life');
    const body = { base: 3, position: 0, hash: (await server.hashes(id, 3, [])).at(-1), steps: [draft] };
    const life = await lifeOf();
    expect((await server.call('POST', `/api/masters/${id}/draft/steps`, body)).status).toBe(200);
    await server.call('POST', `/api/masters/${id}/throw-away`);
    expect((await server.call('DELETE', `/api/masters/${id}`)).status).toBe(200);
    expect((await server.bringIn(`backup.inkwell`, backup)).body).toMatchObject({ id });
    await server.idle();
    expect([await boardOf(id), (await server.hashes(id, 2, []))[0] === before[0]]).toEqual(['Backed up', false]);
    expect((await server.call('GET', `/api/masters/${id}/revisions/2?life=${life}`)).status).toBe(409);
    expect((await server.call('GET', `/api/masters/${id}/changes/1/2?life=${life}`)).status).toBe(409);
    expect((await server.call('GET', `/api/masters/${id}/draft`)).body).toEqual({ draft: null });
    // A step that was made on the other life's r2 builds on nothing that is here.
    const late = { base: 2, position: 0, hash: before[0], steps: [draft] };
    expect((await server.call('POST', `/api/masters/${id}/draft/steps`, late)).status).toBe(409);
  }
  expect(server.problems).toEqual([]);
});

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Desk, MasterView } from '@inkwell-twin/api';
import { type Master, type Patch, stepOf } from '@inkwell-twin/core';
import { TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('derivations');
});
afterAll(() => server.close());

const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
const view = async (id: string) => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
const derive = (id: string, label: string, more = {}) =>
  server.call<{ recipe: string; job: string }>('POST', `/api/masters/${id}/copies`, { target: 'svg', label, ...more });
const restart = async (works: boolean) => {
  await server.stop();
  await server.start({ works });
};
const work = async () =>
  (await server.call<{ total: number; jobs: { job: string; kind: string; state: string }[] }>('GET', '/api/work')).body;
const fresh = async (title: string): Promise<string> => (await server.bringIn(`${title}.svg`, drawing)).body.id;

/** Takes something out of a master, or puts something in, and updates it. */
async function change(id: string, patch: (document: Master) => Patch): Promise<void> {
  const { head } = await view(id);
  const document = await server.document(id);
  const { step } = stepOf(document, 'changed', [patch(document)]);
  await server.addSteps(id, head, [], [step]);
  await server.update(id, head, [step]);
}

describe('a copy that is asked for', () => {
  // Whatever became of the test before, somebody does the jobs.
  beforeEach(() => restart(true));

  it('is in its master’s list at once, with how many come before it, and among what is at work', async () => {
    const id = await fresh('listed');
    await server.idle();
    await restart(false);
    await derive(id, 'plan');
    const second = (await derive(id, 'second plan')).body;
    const { derivations } = await view(id);
    expect(derivations.map(({ label, state }) => [label, state])).toEqual([
      ['plan', 'waiting'],
      ['second plan', 'waiting'],
    ]);
    expect(derivations.map(({ ahead }) => ahead)).toEqual([0, 1]);
    expect(derivations[1]).toMatchObject({ recipe: second.recipe, job: second.job, group: 'delivery', message: '' });
    const { total, jobs } = await work();
    expect(total).toBe(2);
    expect(jobs.map(({ kind, state }) => `${kind} ${state}`)).toEqual(['derive waiting', 'derive waiting']);

    // Stopped before it began, it is gone; the other one is written.
    expect((await server.call('POST', `/api/jobs/${second.job}/cancel`)).status).toBe(200);
    expect((await view(id)).derivations.map(({ label }) => label)).toEqual(['plan']);
    await restart(true);
    await server.idle();
    const after = await view(id);
    expect([after.derivations, after.copies.map(({ label }) => label)]).toEqual([[], ['plan']]);
    expect(await work()).toEqual({ total: 0, jobs: [], demo: null });
  });

  it('and can’t be derived stays in the list with why, is tried again, and can be given up', async () => {
    const id = await fresh('failing');
    await server.idle();
    await restart(false);
    const board = (await server.document(id)).boards[0]!;
    await change(id, (document) => ({
      op: 'insert',
      parent: document.id,
      list: 'boards',
      after: board.id,
      node: { ...board, id: 'second', name: 'Second', items: [] },
    }));
    const { recipe } = (await derive(id, 'of the second', { scope: { of: 'boards', ids: ['second'] } })).body;
    await change(id, (document) => ({ op: 'remove', parent: document.id, list: 'boards', node: 'second' }));
    await restart(true);
    await server.idle();
    const [failed] = (await view(id)).derivations;
    expect(failed).toMatchObject({ recipe, state: 'failed', job: '', message: expect.stringContaining('no board “second”') });
    const notice = Desk.parse((await server.call('GET', '/api/desk')).body).notices.find(({ master }) => master === id);
    expect(notice).toMatchObject({ recipe, message: failed!.message });

    expect((await server.call('POST', `/api/recipes/${recipe}/derive`)).status).toBe(200);
    await server.idle();
    expect((await view(id)).derivations).toEqual([expect.objectContaining({ recipe, state: 'failed' })]);
    expect((await server.call('DELETE', `/api/recipes/${recipe}`)).status).toBe(200);
    const { derivations, notices } = await view(id);
    expect([derivations, notices]).toEqual([[], []]);
    for (const [method, path] of [
      ['POST', `/api/recipes/${recipe}/derive`],
      ['DELETE', `/api/recipes/${recipe}`],
    ] as const)
      expect((await server.call(method, path)).status).toBe(404);
  });

  it('is not given up as long as there is a copy of it', async () => {
    const id = await fresh('kept');
    const { recipe } = (await derive(id, 'plan')).body;
    await server.idle();
    const { status, body } = await server.call<{ message: string }>('DELETE', `/api/recipes/${recipe}`);
    expect([status, JSON.stringify(body)]).toEqual([400, expect.stringContaining('withdraw that instead')]);
    expect((await view(id)).copies).toHaveLength(1);
  });
});

describe('a size that a copy is to keep within', () => {
  it('is found with the options that do, or it is said that nothing does', async () => {
    const id = await fresh('sized');
    const fit = (target: string, most: number) =>
      server.call<{ options: Record<string, number>; bytes: number; tried: number }>('POST', `/api/masters/${id}/fit`, {
        target,
        most,
      });
    const { body: whole } = await fit('jpeg', 1e9);
    expect(whole).toMatchObject({ tried: 1, options: { quality: 90 } });
    const most = Math.round(whole.bytes / 2);
    const { body: half } = await fit('jpeg', most);
    expect(half.bytes).toBeLessThanOrEqual(most);
    // A copy that is made by these options is that large.
    await derive(id, 'half', { target: 'jpeg', options: half.options });
    await server.idle();
    const size = (await view(id)).copies[0]!.size;
    expect(size).toBe(half.bytes);
    for (const target of ['jpeg', 'dxf']) {
      const { status, body } = await fit(target, 10);
      expect([status, JSON.stringify(body)]).toEqual([400, expect.stringMatching(/too many|nothing makes such a copy smaller/)]);
    }
    expect((await fit('jpeg', 0)).status).toBe(400);
  });
});

describe('copies that are behind', () => {
  it('are derived again together, of some masters or of all; what somebody changed is left', async () => {
    const ids = [await fresh('one'), await fresh('two')];
    for (const id of ids) await derive(id, 'plan');
    await server.idle();
    for (const id of ids)
      await change(id, ({ boards }) => ({ op: 'remove', parent: boards[0]!.id, list: 'items', node: boards[0]!.items[0]!.id }));
    await server.idle();
    const verdicts = async () => (await Promise.all(ids.map(view))).map(({ copies }) => copies[0]!.verdict);
    expect(await verdicts()).toEqual(['behind', 'behind']);
    const again = (masters: string[] | null) => server.call('POST', '/api/derive-behind', { masters });
    expect((await again([ids[0]!])).body).toEqual({ count: 1 });
    await server.idle();
    expect(await verdicts()).toEqual(['in step', 'behind']);
    expect((await again(null)).body).toEqual({ count: 1 });
    await server.idle();
    expect(await verdicts()).toEqual(['in step', 'in step']);
    expect((await again(null)).body).toEqual({ count: 0 });
  });
});

describe('a copy that was withdrawn', () => {
  it('comes back as it was, and is checked', async () => {
    const id = await fresh('back');
    await derive(id, 'plan');
    await server.idle();
    const [copy] = (await view(id)).copies;
    await server.call('POST', `/api/copies/${copy!.id}/withdraw`);
    expect((await view(id)).copies).toEqual([]);
    expect((await server.call('POST', `/api/copies/${copy!.id}/restore`)).status).toBe(200);
    await server.idle();
    expect((await view(id)).copies).toEqual([expect.objectContaining({ id: copy!.id, file: copy!.file, verdict: 'in step' })]);
    expect((await server.call('POST', `/api/copies/${copy!.id}/restore`)).status).toBe(404);
  });
});

it('left no surprise in the log', () => expect(server.problems).toEqual([]));

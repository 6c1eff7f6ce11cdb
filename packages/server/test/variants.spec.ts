import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { MasterView } from '@inkwell-twin/api';
import { type Master, type Patch, type Row, type Table, applyPatches, stepOf } from '@inkwell-twin/core';
import { TestServer } from './harness';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('variants');
});
afterAll(() => server.close());

const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
const view = async (id: string) => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
const row = (id: string, trail: string): Row => ({ id, cells: trail ? { kt: trail } : {} });
const table = (rows: readonly Row[]): Table => ({
  id: 'trails',
  name: 'Trails',
  key: 'kt',
  columns: [{ id: 'kt', name: 'trail', type: 'text' }],
  rows: [...rows],
  summaries: [],
});

/** Changes a master by patches, one after the other, as one update. */
async function change(id: string, ...patches: ((document: Master) => Patch)[]): Promise<void> {
  const { head } = await view(id);
  let document = await server.document(id);
  const all = patches.map((make) => {
    const patch = make(document);
    document = applyPatches(document, [patch]).master;
    return patch;
  });
  const { step } = stepOf(await server.document(id), 'changed', all);
  const [kept, updated] = [await server.addSteps(id, head, [], [step]), await server.update(id, head, [step])];
  expect([kept.status, updated.status, updated.body]).toEqual([200, 200, expect.objectContaining({ rev: head + 1 })]);
}
const insert = (list: string, node: object) => (document: Master) =>
  ({ op: 'insert', parent: document.id, list, after: null, node }) as unknown as Patch;

/** A master with a text that says its parameter, and a table with a value a row. */
async function trails(title: string, ...rows: Row[]): Promise<string> {
  const { id } = (await server.bringIn(`${title}.svg`, drawing)).body;
  await change(
    id,
    insert('parameters', { id: 'p1', name: 'trail', value: 'Sedge Loop', measure: 'text' }),
    insert('tables', table(rows)),
    ({ boards, layers }) =>
      ({
        op: 'insert',
        parent: boards[0]!.id,
        list: 'items',
        after: null,
        node: {
          kind: 'text',
          id: 'words',
          layer: layers[0]!.id,
          style: { fill: '#14213a', stroke: null, strokeWidth: 0 },
          text: '{trail}',
          slots: true,
          x: 10,
          y: 10,
          size: 8,
          font: 'Commissioner',
          align: 'start',
        },
      }) as unknown as Patch,
  );
  await server.idle();
  return id;
}
interface Asked {
  readonly series: string;
  readonly job: string;
  readonly count: number;
  readonly failed: { row: string; name: string; problem: string }[];
}
const derive = (id: string, more = {}) =>
  server.call<Asked>('POST', `/api/masters/${id}/variants`, { target: 'svg', label: 'trail', table: 'trails', ...more });
const fileOf = async (copy: string): Promise<string> => (await fetch(`${server.url}/api/copies/${copy}/file`)).text();

describe('variants', () => {
  it('become one copy a row in one job, named by their rows, each held against its own', async () => {
    const id = await trails('made', row('r1', 'Heron Loop'), row('r2', 'Bittern Path'), row('r3', ''), row('r4', 'Otter Run'));
    const { status, body } = await derive(id);
    expect(status).toBe(200);
    expect(body).toMatchObject({ count: 3, failed: [{ row: 'r3', problem: expect.stringContaining('trail is empty') }] });
    await server.idle();
    const { copies, derivations } = await view(id);
    expect(derivations).toEqual([]);
    expect(copies.map(({ label, verdict, series, row: by }) => [label, verdict, series?.id, by])).toEqual([
      ['trail Heron Loop', 'in step', body.series, { table: 'trails', row: 'r1' }],
      ['trail Bittern Path', 'in step', body.series, { table: 'trails', row: 'r2' }],
      ['trail Otter Run', 'in step', body.series, { table: 'trails', row: 'r4' }],
    ]);
    expect(copies.map(({ file }) => file)).toEqual([
      'trail_heron_loop_r2.svg',
      'trail_bittern_path_r2.svg',
      'trail_otter_run_r2.svg',
    ]);
    expect(await fileOf(copies[1]!.id)).toContain('Bittern Path');

    // One cell: the copy of its row falls behind, and no other one.
    await change(id, () => ({ op: 'set', node: 'r2', attribute: 'cells.kt', value: 'Bittern Way' }) as Patch);
    await server.idle();
    const verdicts = async () => (await view(id)).copies.map(({ verdict }) => verdict);
    expect(await verdicts()).toEqual(['in step', 'behind', 'in step']);
    expect((await view(id)).copies[1]!.endedBy).toContain('r3');
    expect((await server.call('POST', '/api/derive-behind', { masters: [id] })).body).toEqual({ count: 1 });
    await server.idle();
    expect(await verdicts()).toEqual(['in step', 'in step', 'in step']);
    // A row that goes: its copy has nothing to be held against.
    await change(id, () => ({ op: 'remove', parent: 'trails', list: 'rows', node: 'r4' }) as Patch);
    await server.idle();
    const gone = (await view(id)).copies[2]!;
    expect(gone).toMatchObject({ verdict: 'behind', proof: 'The master has no row “Otter Run” any more.' });
    expect(gone.endedBy).toContain('took away the row');
  });

  it('go on past one that fails, which stays in the list with why; the others are there', async () => {
    const id = await trails('failing', row('r1', 'Heron Loop'), row('r2', 'Bittern Path'), row('r3', 'Otter Run'));
    await server.stop();
    await server.start({ works: false });
    expect((await derive(id)).body.count).toBe(3);
    const waiting = (await view(id)).derivations;
    expect(waiting).toEqual([expect.objectContaining({ label: 'trail', state: 'waiting', left: 3 })]);
    expect((await server.call<{ jobs: { kind: string; label: string }[] }>('GET', '/api/work')).body.jobs).toEqual([
      expect.objectContaining({ kind: 'series', label: 'trail' }),
    ]);
    await change(id, () => ({ op: 'remove', parent: 'trails', list: 'rows', node: 'r2' }) as Patch);
    await server.stop();
    await server.start();
    await server.idle();
    const { copies, derivations } = await view(id);
    expect(copies.map(({ label }) => label)).toEqual(['trail Heron Loop', 'trail Otter Run']);
    expect(derivations).toEqual([
      expect.objectContaining({
        label: 'trail Bittern Path',
        state: 'failed',
        message: expect.stringContaining('not there any more'),
      }),
    ]);
    expect((await server.call('DELETE', `/api/recipes/${derivations[0]!.recipe}`)).status).toBe(200);
    expect((await view(id)).derivations).toEqual([]);
  });

  it('are withdrawn together, and come back together', async () => {
    const id = await trails('withdrawn', row('r1', 'Heron Loop'), row('r2', 'Bittern Path'));
    const { series } = (await derive(id)).body;
    await server.idle();
    const before = (await view(id)).copies.map((copy) => copy.id);
    const gone = await server.call<{ copies: string[] }>('POST', `/api/series/${series}/withdraw`);
    expect([gone.status, gone.body.copies]).toEqual([200, before]);
    expect((await view(id)).copies).toEqual([]);
    expect((await server.call('POST', `/api/series/${series}/withdraw`)).status).toBe(404);
    expect((await server.call('POST', `/api/series/${series}/restore`, { copies: before })).status).toBe(200);
    await server.idle();
    expect((await view(id)).copies.map((copy) => [copy.id, copy.verdict])).toEqual(before.map((one) => [one, 'in step']));
  });

  it('that are stopped before they begin leave nothing behind', async () => {
    const id = await trails('stopped', row('r1', 'Heron Loop'), row('r2', 'Bittern Path'));
    await server.stop();
    await server.start({ works: false });
    const { job } = (await derive(id)).body;
    expect((await server.call('POST', `/api/jobs/${job}/cancel`)).status).toBe(200);
    const { copies, derivations } = await view(id);
    expect([copies, derivations]).toEqual([[], []]);
    await server.stop();
    await server.start();
    await server.idle();
    expect((await view(id)).copies).toEqual([]);
  });

  it('are asked for by some rows only, and not at all of a table that is none', async () => {
    const id = await trails('some', row('r1', 'Heron Loop'), row('r2', 'Bittern Path'));
    expect((await derive(id, { rows: ['r2'] })).body.count).toBe(1);
    await server.idle();
    expect((await view(id)).copies.map(({ label }) => label)).toEqual(['trail Bittern Path']);
    // What has its copy is not made twice; new rows are made.
    const rest = (await derive(id)).body;
    expect(rest).toMatchObject({ count: 1, failed: [{ row: 'r2', problem: 'It has its copy already: “trail Bittern Path”.' }] });
    await server.idle();
    expect((await view(id)).copies.map(({ label }) => label)).toEqual(['trail Bittern Path', 'trail Heron Loop']);
    expect((await derive(id)).status).toBe(400);
    for (const [more, words] of [
      [{ table: 'others' }, 'no such table'],
      [{ rows: ['r9'] }, 'no rows'],
    ] as const) {
      const { status, body } = await derive(id, more);
      expect([status, JSON.stringify(body)]).toEqual([400, expect.stringContaining(words)]);
    }
    await change(id, () => ({ op: 'set', node: 'kt', attribute: 'name', value: 'remark' }) as Patch);
    expect(JSON.stringify((await derive(id)).body)).toContain('Its parameters are: trail.');
  });
});

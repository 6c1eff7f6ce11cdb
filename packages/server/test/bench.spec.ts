import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { type BenchView, type CopyView, type MasterView, readJob } from '@inkwell-twin/api';
import { type Item, newMaster, setAttribute, stepOf, writePackage } from '@inkwell-twin/core';
import { BENCH } from '../../standins/src';
import { MachineAtFolder } from '../../standins/src/at-folder';
import { INES, TestServer } from './harness';

const on = { layer: 'route', style: { fill: null, stroke: '#14213a', strokeWidth: 0.4 } } as const;
const items: Item[] = [{ kind: 'rectangle', id: 'plate', name: 'Plate', ...on, x: 20, y: 20, width: 160, height: 90, radius: 8 }];
let server: TestServer;
let master: string;
let router: MachineAtFolder;
let folder: string;

beforeAll(async () => {
  server = await TestServer.open('bench');
  const made = newMaster('0f1d7c1e-1111-4a1b-9c1d-0000000d0042', 'Latch plate', 'Ines Okoro', 'panel', {});
  const layers = [{ id: 'route', name: 'Route', colour: '#14213a', visible: true, locked: false, process: 'route' as const }];
  const document = { ...made, layers, boards: [{ ...made.boards[0]!, items }] };
  const file = writePackage({ master: document, rev: 1, time: '2026-05-04T08:10:00Z', history: null, resources: new Map() });
  master = (await server.bringIn('latch plate.inkwell', file)).body.id;
  await server.idle();
  for (const [target, label] of [
    ['gcode', 'for the router'],
    ['hpgl', 'for any cutter'],
    ['svg', 'for the web'],
  ])
    await server.call('POST', `/api/masters/${master}/copies`, { target, options: {}, scope: { of: 'boards', ids: [] }, label });
  await server.idle();
  folder = join(`${server.shelf}-bench`, 'router');
  router = new MachineAtFolder(folder, 'router', BENCH['router']!);
});
afterAll(async () => {
  await server.close();
  rmSync(`${server.shelf}-bench`, { recursive: true, force: true });
});

const copyCalled = async (label: string): Promise<CopyView> =>
  (await server.call<MasterView>('GET', `/api/masters/${master}`)).body.copies.find((one) => one.label === label)!;
const machine = async (id = 'router') =>
  (await server.call<BenchView>('GET', '/api/bench')).body.machines.find((one) => one.id === id)!;
const send = async (label: string, to = 'router') =>
  server.call<{ file: string; error: { message: string } }>('POST', `/api/bench/${to}/holds`, {
    copy: (await copyCalled(label)).id,
  });
const run = (file: string, reason = '') =>
  server.call<{ id: string; error: { code: string; message: string } }>('POST', '/api/bench/router/runs', { file, reason });
/** The machine looks twice: what has just come is left until it rests. */
const look = (): void => {
  router.look();
  router.look();
};

/** The plate a little wider, as the next revision. */
async function update(): Promise<void> {
  const now = await server.document(master);
  const { head } = (await server.call<MasterView>('GET', `/api/masters/${master}`)).body;
  const { label, patches } = setAttribute(now, 'plate', 'width', 160 + head);
  const { step } = stepOf(now, label, patches);
  await server.addSteps(master, head, [], [step]);
  expect((await server.update(master, head, [step], 'wider')).status).toBe(200);
  await server.idle();
}

describe('the bench', () => {
  let file = '';

  it('lays a copy into the folder of its machine, byte for byte, and knows it once the machine has said what it got', async () => {
    const sent = await send('for the router');
    expect(sent.status).toBe(200);
    file = sent.body.file;
    expect((await machine()).holds).toMatchObject([{ file, says: null, other: false, sent: { by: INES.name } }]);
    look();
    const copy = await copyCalled('for the router');
    const bytes = readFileSync(join(folder, 'holds', file));
    expect(bytes.equals(readFileSync(join(server.shelf, 'latch_plate', copy.file)))).toBe(true);
    expect(await machine()).toMatchObject({
      there: true,
      holds: [{ says: { runs: true, alarms: [] }, copy: { label: 'for the router', rev: 1, stands: 'in step', master } }],
    });
    const picture = await fetch(`${server.url}/api/bench/router/pictures/${file}`);
    expect(picture.headers.get('content-type')).toContain('image/svg+xml');
    expect(await picture.text()).toContain('<polyline');
  });

  it('takes the same copy from many at once, whole', async () => {
    const sent = await Promise.all(Array.from({ length: 12 }, () => send('for the router')));
    expect(sent.map(({ status }) => status)).toEqual(Array(12).fill(200));
    look();
    expect((await machine()).holds).toMatchObject([{ file, other: false, copy: { rev: 1, stands: 'in step' } }]);
    expect(readdirSync(join(folder, 'holds'))).toEqual([file]);
  });

  it('refuses a copy for another machine, and one for none', async () => {
    expect((await send('for any cutter')).body.error.message).toContain('is for machines that take HP-GL, not for the Router');
    expect((await send('for the web')).body.error.message).toContain('is for no machine');
    expect((await send('for the router', 'lathe')).status).toBe(404);
    expect((await send('for any cutter', 'cutter')).status).toBe(200);
  });

  it('lets run what is in step without a word, and keeps on record how it went', async () => {
    const { status, body } = await run(file);
    expect(status).toBe(200);
    expect((await machine()).runs).toMatchObject([{ id: body.id, file, reason: '', by: INES.name, ended: null }]);
    look();
    expect((await machine()).runs).toMatchObject([{ stood: 'is in step, of r1', ended: { runs: true, alarms: [] } }]);
    // What the machine said is on record, even where its folder is swept.
    rmSync(join(folder, 'ran', `${body.id}.json`));
    expect((await machine()).runs[0]!.ended!.seconds).toBeGreaterThan(10);
  });

  it('asks for a reason where the master has moved on, and puts it on record', async () => {
    await update();
    expect((await machine()).holds[0]!.copy).toMatchObject({ stands: 'behind', rev: 1, head: 2 });
    const refused = await run(file);
    expect(refused.status).toBe(400);
    expect(refused.body.error).toMatchObject({
      code: 'reason-missing',
      message: expect.stringContaining('is of r1, and behind: the master is at r2') as string,
    });
    expect(readdirSync(join(folder, 'run'))).toEqual([]);
    expect((await run(file, 'the customer ordered it so')).status).toBe(200);
    look();
    expect((await machine()).runs[0]).toMatchObject({
      reason: 'the customer ordered it so',
      stood: 'is of r1, and behind: the master is at r2',
      ended: { runs: true },
    });
  });

  it('replaces what a machine held of a copy by the copy of now', async () => {
    await server.call('POST', `/api/copies/${(await copyCalled('for the router')).id}/derive`);
    await server.idle();
    // What was sent is behind, though the copy on the shelf is in step.
    expect((await machine()).holds[0]!.copy).toMatchObject({ stands: 'behind', rev: 1 });
    const { body } = await send('for the router');
    look();
    expect((await machine()).holds).toMatchObject([{ file: body.file, copy: { rev: 2, stands: 'in step' } }]);
    expect(readdirSync(join(folder, 'holds'))).toEqual([body.file]);
    file = body.file;
  });

  it('tells bytes that are not those that were sent, and a file that nobody here knows', async () => {
    const path = join(folder, 'holds', file);
    const good = readFileSync(path, 'utf8');
    writeFileSync(path, good.replace('M5', 'M5 (edited at the machine)'));
    writeFileSync(join(folder, 'holds', 'stranger.nc'), 'G21 G90\nG0 X5000\nM2\n');
    look();
    const holds = (await machine()).holds;
    expect(holds.find((one) => one.file === file)).toMatchObject({ other: true, copy: null });
    expect(holds.find((one) => one.file === 'stranger.nc')).toMatchObject({ sent: null, copy: null, says: { runs: false } });
    expect((await run('stranger.nc')).body.error.code).toBe('reason-missing');
    expect((await run(file)).body.error.message).toContain('is not what was sent there');
    writeFileSync(path, good);
    look();
    expect((await machine()).holds.find((one) => one.file === file)).toMatchObject({ other: false, copy: { stands: 'in step' } });
  });

  it('shows what a machine does with a file that it holds, or that somebody brings, and nothing of what lies elsewhere', async () => {
    writeFileSync(join(folder, 'holds', 'somebody.nc'), 'G21 G90\nT1 M6\nG0 X1 Y2\nG1 Z-1 F100\nX5\nG84 X9\nM2\n');
    const answer = await fetch(`${server.url}/api/bench/router/jobs/somebody.nc`);
    const held = readJob(await answer.arrayBuffer());
    expect(held).toMatchObject({ language: 'ISO 6983-1', machine: 'router', comesIn: false });
    expect(held.notUnderstood).toEqual([{ kind: 'G84, line 6', count: 1 }]);
    expect(held.body.kind).toBe('machining');
    for (const [name, status] of [
      ['no-such.nc', 404],
      ['..%2Fmachine.json', 400],
    ] as const)
      expect((await fetch(`${server.url}/api/bench/router/jobs/${name}`)).status).toBe(status);
    const body = readFileSync(join(folder, 'holds', 'somebody.nc'));
    rmSync(join(folder, 'holds', 'somebody.nc'));
    const headers = { 'content-type': 'application/octet-stream' };
    const brought = await fetch(`${server.url}/api/identify?name=somebody.nc`, { method: 'POST', body, headers });
    expect(await brought.json()).toMatchObject({ kind: 'job', master: null, copy: null });
    const looked = await fetch(`${server.url}/api/identify/job?name=somebody.nc`, { method: 'POST', body, headers });
    expect(readJob(await looked.arrayBuffer())).toMatchObject({ machine: '', notUnderstood: held.notUnderstood });
    const none = await fetch(`${server.url}/api/identify/job?name=a.svg`, { method: 'POST', body: '<svg/>', headers });
    expect(none.status).toBe(400);
  });

  it('takes files away, but none that lies elsewhere', async () => {
    writeFileSync(join(folder, 'secret.txt'), 'not for everybody');
    const remove = (name: string) => server.call('POST', '/api/bench/router/holds/remove', { file: name });
    for (const name of ['../secret.txt', 'secret.txt', '..', '/etc/passwd']) expect((await remove(name)).status).toBe(404);
    expect((await fetch(`${server.url}/api/bench/router/pictures/${encodeURIComponent('../machine')}`)).status).toBe(400);
    expect((await fetch(`${server.url}/api/bench/${encodeURIComponent('..')}/pictures/x`)).status).toBe(404);
    expect((await remove('stranger.nc')).status).toBe(200);
    look();
    expect((await machine()).holds.map((one) => one.file)).toEqual([file]);
    expect(readdirSync(join(folder, 'said')).filter((name) => name.startsWith('stranger'))).toEqual([]);
  });

  it('reads nothing of what a machine says that can’t be understood, and goes on', async () => {
    const path = join(folder, 'said', `${file}.json`);
    const good = readFileSync(path);
    for (const bad of ['{', '[]', '{"runs":"yes"}', `{"sha256":"${'0'.repeat(63)}"}`, ' '.repeat(3_000_000)]) {
      writeFileSync(path, bad);
      expect((await machine()).holds[0]).toMatchObject({ says: null, copy: { stands: 'in step' } });
    }
    expect((await run(file)).status).toBe(503);
    writeFileSync(path, good);
    mkdirSync(join(folder, 'holds', 'a folder'));
    look();
    expect((await machine()).holds).toHaveLength(1);
  });

  it('gives a copy for a stick, in the folder of the machine, with its checksum', async () => {
    const copy = await copyCalled('for the router');
    const answer = await fetch(`${server.url}/api/bench/router/stick?copy=${copy.id}`);
    const files = unzipSync(new Uint8Array(await answer.arrayBuffer()));
    expect(Object.keys(files).sort()).toEqual(['router/SHA256SUMS', `router/${copy.file}`]);
    const digest = createHash('sha256').update(files[`router/${copy.file}`]!).digest('hex');
    expect(new TextDecoder().decode(files['router/SHA256SUMS'])).toBe(`${digest}  ${copy.file}\n`);
  });

  it('calls what was sent withdrawn, once its copy is', async () => {
    await server.call('POST', `/api/copies/${(await copyCalled('for the router')).id}/withdraw`);
    expect((await machine()).holds[0]!.copy).toMatchObject({ stands: 'withdrawn' });
    expect((await run(file)).body.error.code).toBe('reason-missing');
  });
});

import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Desk, type EventView, MasterView } from '@inkwell-twin/api';
import { type Master, type Patch, readPackage, setAttribute, stepOf } from '@inkwell-twin/core';
import { atDepth } from '../../core/test/depth';
import { type SmallDisk, smallDisk, whereDisksAreMade } from '../../core/test/small-disk';
import { Compute } from '../src/compute/compute';
import { Database } from '../src/database/database';
import { Jobs } from '../src/jobs/jobs';
import { JobRunner } from '../src/jobs/runner';
import { freshDatabase } from './database';
import { TestServer, until } from './harness';

/** Copies of each master. */
const MANY = atDepth(12, 24);
let server: TestServer;
beforeAll(async () => {
  server = await TestServer.open('jobs', 2);
});
afterAll(() => server.close());

const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
const restart = async (works: boolean) => {
  await server.stop();
  await server.start({ works });
};
/** Hands beside a server that has none, so that nothing of what they do goes unheard. */
const lanes = async () => {
  const { database: url } = server.workshop.settings;
  const database = new Database(url, 4);
  const compute = new Compute(server.workshop.settings, 2);
  const runner = new JobRunner(database, new Jobs(database), compute, (what, error) => server.problems.push([what, error]));
  await runner.open();
  const close = () =>
    runner
      .close()
      .then(() => compute.close())
      .then(() => database.close());
  return { close };
};
const view = async (id: string) => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
const derive = (id: string, label: string, target = 'svg') =>
  server.call<{ recipe: string; job: string }>('POST', `/api/masters/${id}/copies`, { target, label });
const states = async (): Promise<string[]> =>
  (
    await server.workshop.database.rows<{ state: string }>("select state::text from pgboss.job where name in ('small', 'large')")
  ).map(({ state }) => state);

describe('a job', () => {
  it('that was answered is done, whoever is there to do it and whenever', async () => {
    const { body } = await server.bringIn('vane.svg', drawing);
    await server.idle();
    await restart(false);
    const labels = Array.from({ length: MANY }, (_, i) => `copy ${i}`);
    for (const label of labels) expect((await derive(body.id, label)).status).toBe(200);
    expect((await view(body.id)).copies).toEqual([]);
    // Nobody was there to do them, and then the server was stopped.
    await restart(true);
    await server.idle();
    const { copies } = await view(body.id);
    expect(copies.map(({ label, verdict }) => [label, verdict]).sort()).toEqual(labels.map((label) => [label, 'in step']).sort());
  });

  it('that a person waits for comes before checks that are under way, and those go on after it', async () => {
    const ids: string[] = [];
    for (const name of ['left.svg', 'right.svg']) ids.push((await server.bringIn(name, drawing)).body.id);
    for (const id of ids) for (let i = 0; i < MANY; i++) await derive(id, `copy ${i}`);
    await server.idle();
    await restart(false);
    for (const id of ids) await server.call('POST', `/api/masters/${id}/check`);
    const asked = await server.workshop.database.rows<{ now: Date }>('select now()');
    const events: (EventView & { kind: 'job' })[] = [];
    // Both lanes are busy with that many copies each; the question comes while they are at their first ones.
    const wanted = new Promise<string>((done, fail) => {
      server.workshop.events.listen((event) => {
        if (event.kind !== 'job') return;
        const before = new Set(events.map(({ master }) => master)).size;
        events.push(event);
        if (before === 1 && new Set(events.map(({ master }) => master)).size === 2)
          derive(ids[0]!, 'wanted now').then(({ body }) => done(body.job), fail);
      });
    });
    const work = await lanes();
    const job = await wanted;
    await server.idle();
    await until(async () => events.some(({ id, state }) => id === job && state === 'done'), 'word of the copy');
    const begun = events.findIndex(({ id }) => id === job);
    // A lane left what it was at, and the rest of that went back on the list, as a job of its own that was done later.
    const seen = new Set(events.slice(0, begun).map(({ id }) => id));
    const later = events
      .slice(begun)
      .filter(({ id, label, state }) => label === 'Checking' && state === 'running' && !seen.has(id));
    expect(later.length).toBeGreaterThan(0);
    await work.close();
    await restart(true);
    for (const id of ids) {
      const { copies } = await view(id);
      expect(copies.map(({ verdict }) => verdict)).toEqual(
        Array.from({ length: id === ids[0] ? MANY + 1 : MANY }, () => 'in step'),
      );
      // Every one of them was checked since.
      expect(copies.filter(({ checkedAt }) => !(new Date(checkedAt!) > asked[0]!.now))).toEqual([]);
    }
  });

  it('that waits is asked for once, however often it is asked for', async () => {
    const { body } = await server.bringIn('again.svg', drawing);
    await derive(body.id, 'plan');
    await server.idle();
    const [copy] = (await view(body.id)).copies;
    await restart(false);
    const jobs = new Set<string>();
    for (let i = 0; i < 10; i++)
      jobs.add((await server.call<{ job: string }>('POST', `/api/copies/${copy!.id}/derive`)).body.job);
    expect(jobs.size).toBe(1);
    await restart(true);
    await server.idle();
    expect((await view(body.id)).copies).toMatchObject([{ label: 'plan', verdict: 'in step' }]);
  });

  it('that is cancelled before it began is never done, and says so', async () => {
    const { body } = await server.bringIn('cancelled.svg', drawing);
    await server.idle();
    await restart(false);
    const events: EventView[] = [];
    server.workshop.events.listen((event) => events.push(event));
    const { job } = (await derive(body.id, 'never')).body;
    expect((await server.call('POST', `/api/jobs/${job}/cancel`)).status).toBe(200);
    expect((await server.call('POST', `/api/jobs/${job}/cancel`)).status).toBe(404);
    await until(async () => events.some((event) => event.kind === 'job' && event.state === 'cancelled'), 'word of it');
    await restart(true);
    await server.idle();
    expect((await view(body.id)).copies).toEqual([]);
    expect((await server.call('POST', '/api/jobs/none/cancel')).status).toBe(404);
  });

  it('whose worker was lost goes to another at once', async () => {
    const { body } = await server.bringIn('lost.svg', drawing);
    await server.idle();
    await restart(false);
    await derive(body.id, 'found again');
    // A worker took it and died: its name is on it, and nobody holds that name's lock.
    await server.workshop.database.query(
      "update pgboss.job set state = 'active', started_on = now() where state = 'created' and name = 'small'",
    );
    await server.workshop.database.query(
      "insert into job_holder (job, queue, worker) select id, name, 999999 from pgboss.job where state = 'active' on conflict (job) do update set worker = 999999",
    );
    await restart(true);
    await until(async () => (await view(body.id)).copies.length === 1, 'the copy');
    expect((await view(body.id)).copies).toMatchObject([{ label: 'found again' }]);
    await server.idle();
  });

  it('that can’t be done says why on the Desk, and keeps nobody else waiting', async () => {
    const { body } = await server.call<{ id: string }>('POST', '/api/masters', {
      title: 'Too much',
      purpose: 'panel',
      owner: '',
    });
    const now = await server.document(body.id);
    // A picture whose bytes were never here.
    const lost = {
      kind: 'picture',
      id: 'lost',
      layer: null,
      style: { fill: null, stroke: null, strokeWidth: 0 },
      resource: 'ab'.repeat(32),
      x: 0,
      y: 0,
      width: 10,
      height: 10,
    };
    const patches: Patch[] = [{ op: 'insert', parent: now.boards[0]!.id, list: 'items', after: null, node: lost }];
    const { step } = stepOf(now, 'Put there', patches);
    await server.addSteps(body.id, 1, [], [step]);
    expect((await server.update(body.id, 1, [step])).status).toBe(200);
    expect((await derive(body.id, 'never')).status).toBe(200);
    await server.idle();
    const desk = Desk.parse((await server.call('GET', '/api/desk')).body);
    expect(desk.notices.filter(({ master }) => master === body.id).map(({ message }) => message)).toEqual(
      expect.arrayContaining([expect.stringMatching(/^never: The picture abababababab… is not kept here/)]),
    );
    expect((await view(body.id)).copies).toEqual([]);
    const { body: other } = await server.bringIn('other.svg', drawing);
    await derive(other.id, 'plan');
    await server.idle();
    expect((await view(other.id)).copies).toMatchObject([{ verdict: 'in step' }]);
  });

  it('that meets what nobody foresaw is tried a few times, said on the Desk, and not tried without end', async () => {
    const { body } = await server.bringIn('unforeseen.svg', drawing);
    await server.idle();
    // As if a table were another one than it should be.
    const owner = new Database(server.database.owner, 1);
    await owner.query('alter table picture rename column png to painted');
    await server.workshop.jobs.picture(body.id);
    await server.idle();
    const [row] = await server.workshop.database.rows<{ tries: number }>(
      "select max(retry_count)::integer as tries from pgboss.job where data->>'kind' = 'picture' and data->>'master' = $1",
      [body.id],
    );
    expect(row!.tries).toBe(2);
    const { notices } = await view(body.id);
    expect(notices.map(({ message }) => message)).toEqual([expect.stringMatching(/^Drawing its picture: /)]);
    await owner.query('alter table picture rename column painted to png');
    await server.workshop.jobs.picture(body.id);
    await server.idle();
    expect((await view(body.id)).notices).toEqual([]);
    await owner.close();
    // That it was met is in the log, each time.
    expect(server.problems.splice(0).length).toBe(3);
  });

  it('is thrown away an hour after it was done', async () => {
    await server.workshop.database.query(
      "update pgboss.job set completed_on = now() - interval '2 hours' where state >= 'completed'",
    );
    await until(async () => (await states()).every((state) => state !== 'completed'), 'old jobs gone');
  });
  it('left no surprise in the log', () => expect(server.problems).toEqual([]));
});

whereDisksAreMade.describe('a shelf whose disk is full', () => {
  let full: TestServer;
  let disk: SmallDisk;
  beforeAll(async () => {
    disk = smallDisk('400k');
    mkdirSync(join(disk.folder, 'shelf'));
    full = await TestServer.on(await freshDatabase('full_disk'), join(disk.folder, 'shelf'));
  });
  afterAll(async () => {
    await full.stop();
    disk.remove();
  });

  it('keeps the master’s old file where it was, says so on the Desk, and writes the new one when there is room', async () => {
    const { body } = await full.call<{ id: string }>('POST', '/api/masters', { title: 'Gate', purpose: 'panel', owner: '' });
    await full.idle();
    const file = join(full.shelf, 'gate/gate.inkwell');
    const old = readFileSync(file);
    // Whatever else lies there takes the rest of the room.
    const ballast = join(disk.folder, 'ballast');
    spawnSync('dd', ['if=/dev/zero', `of=${ballast}`, 'bs=1k', 'count=1000']);
    const now: Master = await full.document(body.id);
    const { label, patches } = setAttribute(now, 'board-1', 'name', 'Face');
    const { step } = stepOf(now, label, patches);
    await full.addSteps(body.id, 1, [], [step]);
    expect((await full.update(body.id, 1, [step])).status).toBe(200);
    const notices = async () => Desk.parse((await full.call('GET', '/api/desk')).body).notices;
    await until(async () => (await notices()).length > 0, 'a word on the Desk');
    expect((await notices())[0]!.message).toMatch(
      /no room left on its disk. What stands there stays as it was. It is tried again/,
    );
    expect(readFileSync(file).equals(old)).toBe(true);
    expect(readdirSync(join(full.shelf, 'gate'))).toEqual(['gate.inkwell']);
    // The revision is safe in the database, and a copy that finds no room is refused in the same way.
    expect(await full.document(body.id)).toMatchObject({ boards: [{ name: 'Face' }] });
    writeFileSync(ballast, '');
    await until(async () => readPackage(readFileSync(file)).rev === 2, 'the new file');
    await until(async () => !(await notices()).length, 'the word taken back');
  });
});

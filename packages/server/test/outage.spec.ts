import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Step, setAttribute, stepOf } from '@inkwell-twin/core';
import type { DraftView } from '@inkwell-twin/api';
import { startPostgres } from '../../../scripts/lib/postgres.mjs';
import { migrate } from '../src';
import { Database } from '../src/database/database';
import { databaseFailure } from '../src/database/failures';
import { TestServer, until } from './harness';

// A PostgreSQL of its own, with its disk taken seriously: this one is killed.
let folder: string;
let database: Awaited<ReturnType<typeof startPostgres>>;
let server: TestServer;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'inkwell-outage-'));
  database = await startPostgres(join(folder, 'postgres'));
  await migrate(database.owner);
  server = await TestServer.on({ owner: database.owner, app: database.url }, join(folder, 'shelf'));
});
afterAll(async () => {
  await server.stop();
  database.stop();
  rmSync(folder, { recursive: true, force: true });
});

const health = async () => fetch(`${server.url}/api/health`);
const isWell = async () => (await health().catch(() => null))?.ok ?? false;

describe('PostgreSQL dying', () => {
  it('under load: requests are answered with a time to come again, the server lives, and nothing acknowledged is lost', async () => {
    const { body } = await server.call<{ id: string }>('POST', '/api/masters', { title: 'Gate', purpose: 'panel', owner: '' });
    await server.idle();
    const start = await server.document(body.id);
    const statuses = new Map<number, number>();
    let acknowledged = 0;
    let over = false;
    const writers = Array.from({ length: 6 }, async (_, i) => {
      const who = { id: `outage-writer-${i}`, name: '' };
      const steps: Step[] = [];
      let now = start;
      while (!over) {
        const { label, patches } = setAttribute(now, 'board-1', 'name', `Name ${steps.length}`);
        const done = stepOf(now, label, patches);
        const { status, headers } = await server.addSteps(body.id, 1, steps, [done.step], who);
        statuses.set(status, (statuses.get(status) ?? 0) + 1);
        if (status === 200) {
          now = done.master;
          steps.push(done.step);
          acknowledged++;
        } else {
          expect(headers.get('retry-after')).toBe('2');
          await new Promise((pause) => setTimeout(pause, 100));
        }
      }
      return { who, steps };
    });
    for (let round = 0; round < 3; round++) {
      const before = acknowledged;
      await until(async () => acknowledged >= before + 10, 'steps that were acknowledged');
      process.kill(database.pid(), 'SIGKILL');
      await database.ended();
      const answer = await health();
      expect([answer.status, answer.headers.get('retry-after')]).toEqual([503, '2']);
      await until(
        () =>
          database.again().then(
            () => true,
            () => false,
          ),
        'PostgreSQL back',
      );
      await until(isWell, 'the server back by itself');
    }
    await new Promise((pause) => setTimeout(pause, 300));
    over = true;
    const written = await Promise.all(writers);
    expect([...statuses.keys()].sort()).toEqual([200, 503]);
    expect(acknowledged).toBeGreaterThan(20);
    for (const { who, steps } of written) {
      const { draft } = (await server.call<{ draft: DraftView }>('GET', `/api/masters/${body.id}/draft`, undefined, who)).body;
      // One more may have arrived whose answer did not.
      expect(draft.steps.slice(0, steps.length)).toEqual(steps);
      expect(draft.steps.length - steps.length).toBeLessThanOrEqual(1);
    }
  });

  it('idle, or with jobs on the list: they are done when it is back, and browsers are told to look again', async () => {
    const { body, status } = await server.call<{ id: string }>('POST', '/api/masters', {
      title: 'Fence',
      purpose: 'panel',
      owner: '',
    });
    expect({ status, body }).toMatchObject({ status: 200 });
    await server.idle();
    const events: string[] = [];
    server.workshop.events.listen(({ kind }) => events.push(kind));
    process.kill(database.pid(), 'SIGKILL');
    await database.ended();
    expect((await server.call('POST', `/api/masters/${body.id}/copies`, { target: 'svg', label: 'plan' })).status).toBe(503);
    await until(
      () =>
        database.again().then(
          () => true,
          () => false,
        ),
      'PostgreSQL back',
    );
    await until(isWell, 'the server back');
    await until(async () => events.includes('again'), 'word to look again');
    expect((await server.call('POST', `/api/masters/${body.id}/copies`, { target: 'svg', label: 'plan' })).status).toBe(200);
    await server.idle();
    const { body: view } = await server.call<{ copies: { verdict: string }[] }>('GET', `/api/masters/${body.id}`);
    expect(view.copies).toMatchObject([{ verdict: 'in step' }]);
  });

  it('read-only, without room for connections or on its disk, or slow, is said in words, and nothing is half done', async () => {
    const admin = new Database(database.admin, 1);
    const fails = (run: Promise<unknown>) =>
      run.then(
        () => ({ code: 'none', message: '' }),
        ({ code, message }: { code: string; message: string }) => ({ code, message }),
      );
    const other = new Database(database.url, 1);
    await other.rows('select 1');
    const readonly = other.transaction(async (client) => {
      await client.query('set transaction read only');
      await client.query("insert into setting values ('x', 'y')");
    });
    expect(await fails(readonly)).toEqual({ code: 'unavailable', message: expect.stringContaining('can only be read') });
    await admin.query('alter role inkwell_app connection limit 0');
    const third = new Database(database.url, 1);
    expect(await fails(third.rows('select 1'))).toEqual({
      code: 'unavailable',
      message: expect.stringContaining('too many connections'),
    });
    await admin.query('alter role inkwell_app connection limit -1');
    const slow = other.transaction(async (client) => {
      await client.query("insert into setting values ('half', 'done')");
      await client.query('set local statement_timeout = 50');
      await client.query('select pg_sleep(5)');
    });
    expect(await fails(slow)).toEqual({ code: 'unavailable', message: expect.stringContaining('took too long') });
    expect(await other.rows("select from setting where name = 'half'")).toEqual([]);
    const full = Object.assign(new Error('could not extend file'), { code: '53100' });
    expect(databaseFailure(full)).toMatchObject({ code: 'unavailable', message: expect.stringContaining('no room on its disk') });
    await Promise.all([admin, other, third].map((one) => one.close()));
  });
  it('never waits for good: connections, statements, locks and idle transactions have their limits', async () => {
    const other = new Database(database.url, 1);
    const limits = await other.rows<{ name: string; setting: string }>(
      "select name, setting from pg_settings where name in ('statement_timeout', 'lock_timeout', 'idle_in_transaction_session_timeout') order by name",
    );
    expect(limits.map(({ setting }) => Number(setting))).toEqual([30_000, 10_000, 30_000]);
    await other.close();
  });
  it('lets nobody in who has no password, nor the application do what its rows do not need', async () => {
    const { username, password, ...rest } = new URL(database.url);
    void rest;
    expect([username, password.length]).toEqual(['inkwell_app', 32]);
    const open = new Database(database.url.replace(`:${password}@`, '@'), 1);
    await expect(open.rows('select 1')).rejects.toThrow(/password/i);
    const wrong = new Database(database.url.replace(password, 'wrong'), 1);
    await expect(wrong.rows('select 1')).rejects.toThrow(/password/i);
    const app = new Database(database.url, 1);
    for (const sql of [
      'create table mine (a int)',
      'drop table master',
      'alter table master add column x int',
      'create role mine',
      "copy master to program 'true'",
      "update migration set name = 'x'",
    ])
      await expect(app.rows(sql)).rejects.toThrow(/permission denied|must be owner|must be superuser/);
    expect(await app.rows('select rolsuper, rolcreatedb, rolcreaterole from pg_roles where rolname = current_user')).toEqual([
      { rolsuper: false, rolcreatedb: false, rolcreaterole: false },
    ]);
    await Promise.all([open, wrong, app].map((one) => one.close()));
    expect(statSync(`${join(folder, 'postgres')}.passwords.json`).mode & 0o777).toBe(0o600);
  });
});

import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { freePort } from '../scripts/lib/postgres.mjs';

let data: string;
test.beforeAll(() => {
  const parent = mkdtempSync(join(tmpdir(), 'inkwell-start-'));
  // As root the database runs under another user, who has to get through to its folder.
  chmodSync(parent, 0o755);
  data = join(parent, 'data');
});
test.afterAll(() => rmSync(join(data, '..'), { recursive: true, force: true }));

interface Started {
  readonly child: ChildProcess;
  readonly said: () => string;
  readonly ended: Promise<number | null>;
}

/** Runs the start command as a newcomer would. */
function start(...args: string[]): Started {
  const child = spawn(process.execPath, ['scripts/start.mjs', ...args], { stdio: ['ignore', 'pipe', 'pipe'] });
  let words = '';
  child.stdout.on('data', (chunk: Buffer) => (words += chunk.toString()));
  child.stderr.on('data', (chunk: Buffer) => (words += chunk.toString()));
  return { child, said: () => words, ended: new Promise((done) => child.once('exit', (code) => done(code))) };
}
const answers = async (port: number): Promise<boolean> =>
  (await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => null))?.ok ?? false;

test('starts, keeps what was made over a stop and a start, and stops all that it started', async () => {
  const port = await freePort();
  const first = start('--empty', '--port', String(port), '--data', data);
  await expect.poll(() => answers(port)).toBe(true);
  expect(first.said()).toContain(`http://127.0.0.1:${port}`);
  const made = await fetch(`http://127.0.0.1:${port}/api/masters`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ title: 'Gate', purpose: 'panel', owner: '' }),
  });
  expect(made.ok).toBe(true);

  const second = start('--port', String(port), '--data', data);
  expect(await second.ended).toBe(1);
  expect(second.said()).toContain(`Port ${port} is in use`);
  expect(second.said()).toContain(`--port ${port + 1}`);

  first.child.kill('SIGINT');
  expect(await first.ended).toBe(0);
  expect(await answers(port)).toBe(false);
  expect(existsSync(join(data, 'postgres/cluster/postmaster.pid'))).toBe(false);

  const again = start('--empty', '--port', String(port), '--data', data);
  await expect.poll(() => answers(port)).toBe(true);
  const desk = (await (await fetch(`http://127.0.0.1:${port}/api/desk`)).json()) as { masters: { title: string }[] };
  expect(desk.masters.map(({ title }) => title)).toEqual(['Gate']);
  again.child.kill('SIGTERM');
  expect(await again.ended).toBe(0);
});

test('starts again after it was killed without a chance to clean up', { tag: '@long' }, async () => {
  const port = await freePort();
  const killed = start('--empty', '--port', String(port), '--data', data);
  await expect.poll(() => answers(port)).toBe(true);
  killed.child.kill('SIGKILL');
  await killed.ended;
  const other = await freePort();
  const again = start('--empty', '--port', String(other), '--data', data);
  await expect.poll(() => answers(other)).toBe(true);
  again.child.kill('SIGINT');
  expect(await again.ended).toBe(0);
});

test('starts again whatever dies under it: PostgreSQL, the server, the worker', { tag: '@long' }, async () => {
  const port = await freePort();
  const running = start('--empty', '--port', String(port), '--data', data);
  await expect.poll(() => answers(port)).toBe(true);
  const call = (path: string, body?: unknown) =>
    fetch(`http://127.0.0.1:${port}${path}`, {
      ...(body ? { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) } : {}),
    });
  const childOf = (bundle: string): number => {
    const children = readFileSync(`/proc/${running.child.pid}/task/${running.child.pid}/children`, 'utf8').trim().split(' ');
    return Number(children.find((pid) => readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(`${bundle}.mjs`)));
  };
  const { id } = (await (await call('/api/masters', { title: 'Fence', purpose: 'panel', owner: '' })).json()) as { id: string };
  const postmaster = Number(readFileSync(join(data, 'postgres/cluster/postmaster.pid'), 'utf8').split('\n')[0]);
  process.kill(postmaster, 'SIGKILL');
  await expect.poll(async () => (await call('/api/health')).status).toBe(503);
  await expect.poll(() => answers(port)).toBe(true);
  process.kill(childOf('server'), 'SIGKILL');
  await expect.poll(() => answers(port)).toBe(true);
  process.kill(childOf('worker'), 'SIGKILL');
  expect((await call(`/api/masters/${id}/copies`, { target: 'svg', label: 'plan' })).status).toBe(200);
  const copies = async () => ((await (await call(`/api/masters/${id}`)).json()) as { copies: { verdict: string }[] }).copies;
  await expect.poll(async () => (await copies()).map(({ verdict }) => verdict)).toEqual(['in step']);
  expect(running.said()).toContain('PostgreSQL ended; starting it again');
  expect(running.said()).toContain('the worker ended (SIGKILL); starting it again');
  running.child.kill('SIGINT');
  expect(await running.ended).toBe(0);
});

test('ends with npm, even when only npm was told to', { tag: '@long' }, async () => {
  const port = await freePort();
  const npm = spawn('npm', ['start', '--', '--empty', '--port', String(port), '--data', data], { stdio: 'ignore' });
  await expect.poll(() => answers(port)).toBe(true);
  npm.kill('SIGTERM');
  await expect.poll(() => existsSync(join(data, 'postgres/cluster/postmaster.pid'))).toBe(false);
  expect(await answers(port)).toBe(false);
});

test('says what is wrong and what to do, each in a sentence', async () => {
  const port = String(await freePort());
  const says = async (words: string, ...args: string[]) => {
    const run = start(...args);
    expect(await run.ended).toBe(1);
    expect(run.said()).toContain(words);
    expect(run.said()).not.toContain('    at ');
  };
  await says('is not a port', '--port', 'many');
  await says('Known: --empty, --port N, --data DIR', '--loud');
  const file = join(data, '..', 'a-file');
  writeFileSync(file, '');
  await says('is a file, and the data folder should stand there', '--port', port, '--data', file);

  const damaged = join(data, '..', 'damaged');
  mkdirSync(join(damaged, 'postgres/cluster/base'), { recursive: true });
  await says('is not a PostgreSQL data folder', '--port', port, '--data', damaged);

  // A cluster that lost a part of itself: the server's own words, and where the folder is.
  renameSync(join(data, 'postgres/cluster/global'), join(data, 'postgres/cluster/lost'));
  await says('does not start', '--port', port, '--data', data);
});

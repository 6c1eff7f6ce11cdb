import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MasterView } from '@inkwell-twin/api';
import { nodeHash, readPackage } from '@inkwell-twin/core';
import { startPostgres } from '../../../scripts/lib/postgres.mjs';
import { atDepth, isLong } from '../../core/test/depth';
import { migrate } from '../src';
import { TestServer, until } from './harness';

const ROUNDS = atDepth(1, 4);
const KINDS = ['derive', 'check', 'stand', 'file', 'picture'] as const;
type Kind = (typeof KINDS)[number];

// A PostgreSQL of its own, because it is killed; a server that does no jobs; workers that are processes.
let folder: string;
let database: Awaited<ReturnType<typeof startPostgres>>;
let server: TestServer;
let workers: ChildProcess[] = [];
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'inkwell-killed-jobs-'));
  database = await startPostgres(join(folder, 'postgres'));
  await migrate(database.owner);
  server = await TestServer.on({ owner: database.owner, app: database.url }, join(folder, 'shelf'));
  await server.stop();
  await server.start({ works: false });
});
afterAll(async () => {
  for (const worker of workers) worker.kill('SIGKILL');
  await server.stop();
  database.stop();
  rmSync(folder, { recursive: true, force: true });
});

const startWorker = (): ChildProcess => {
  const worker = spawn(process.execPath, [join(__dirname, '../../../dist/node/worker.mjs')], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: {
      ...process.env,
      INKWELL_DATABASE: database.url,
      INKWELL_SHELF: server.shelf,
      INKWELL_NICE: '0',
      INKWELL_LOG: 'silent',
    },
  });
  workers.push(worker);
  return worker;
};
const killed = async (worker: ChildProcess): Promise<void> => {
  const gone = new Promise((done) => worker.once('exit', done));
  worker.kill('SIGKILL');
  await gone;
  workers = workers.filter((one) => one !== worker);
};
const view = async (id: string) => MasterView.parse((await server.call('GET', `/api/masters/${id}`)).body);
const isActive = async (kind: Kind): Promise<boolean> =>
  (await server.workshop.database.rows("select from pgboss.job where state = 'active' and data->>'kind' = $1 limit 1", [kind]))
    .length > 0;
const idle = () => until(() => server.workshop.jobs.isIdle().catch(() => false), 'all jobs done');

/** Asks for a job of a kind. */
async function ask(kind: Kind, id: string): Promise<void> {
  const { jobs } = server.workshop;
  const { copies } = await view(id);
  if (kind === 'derive') await server.call('POST', `/api/copies/${copies[0]!.id}/derive`);
  else if (kind === 'check')
    await jobs.check(
      id,
      copies.map((copy) => copy.id),
    );
  else if (kind === 'stand') await jobs.stand(id);
  else if (kind === 'file') await jobs.writeFile(id);
  else await jobs.picture(id);
}

/** A master with two copies, all of whose work is done. */
async function wholeMaster(title: string): Promise<string> {
  const drawing = readFileSync(join(__dirname, '../../core/test/fixtures/weathervane.svg'));
  const { id } = (await server.bringIn(`${title}.svg`, drawing)).body;
  for (const [target, label] of [
    ['svg', 'page'],
    ['dxf', 'plan'],
  ])
    await server.call('POST', `/api/masters/${id}/copies`, { target, label });
  const worker = startWorker();
  await idle();
  await killed(worker);
  return id;
}

async function assertWhole(id: string): Promise<void> {
  const { copies, notices, folder: at, head } = await view(id);
  expect(copies.map(({ label, verdict, rev }) => [label, verdict, rev]).sort()).toEqual([
    ['page', 'in step', head],
    ['plan', 'in step', head],
  ]);
  expect(notices).toEqual([]);
  const file = readPackage(readFileSync(join(server.shelf, at, `${at.split('/').pop()}.inkwell`)));
  expect(nodeHash(file.master)).toBe(nodeHash(await server.document(id)));
  expect((await fetch(`${server.url}/api/masters/${id}/picture.png`)).status).toBe(200);
}

/** Of what is killed, in the usual run one after the other over the kinds of job. */
const KILLED = ['a worker', 'PostgreSQL'] as const;

describe.each(KILLED)('%s that is killed', (what) => {
  let id: string;
  beforeAll(async () => {
    id = await wholeMaster(`killed ${what}`);
  });
  it.each(KINDS.filter((_, i) => isLong || KILLED[i % 2] === what))(
    'over a job of the kind %s: another does it, and everything is whole',
    async (kind) => {
      for (let round = 0; round < ROUNDS; round++) {
        await ask(kind, id);
        const worker = startWorker();
        await until(() => isActive(kind), `a job ${kind} under way`);
        // Somewhere in it, not always at its beginning.
        await new Promise((later) => setTimeout(later, 40 * round));
        if (what === 'a worker') {
          await killed(worker);
          const next = startWorker();
          await idle();
          await killed(next);
        } else {
          process.kill(database.pid(), 'SIGKILL');
          await database.ended();
          await until(
            () =>
              database.again().then(
                () => true,
                () => false,
              ),
            'PostgreSQL back',
          );
          // The same worker goes on by itself.
          await idle();
          await killed(worker);
        }
        await assertWhole(id);
      }
    },
  );
});

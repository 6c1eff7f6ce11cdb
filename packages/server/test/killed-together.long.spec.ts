import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type DraftView, MasterView } from '@inkwell-twin/api';
import { type Master, type Step, journalHashes, nodeHash, readPackage, setAttribute, stepOf } from '@inkwell-twin/core';
import { startPostgres } from '../../../scripts/lib/postgres.mjs';
import { Database, migrate } from '../src';
import { Jobs } from '../src/jobs/jobs';
import { BRAM, INES, type Who, until } from './harness';
import { Running, RunningServer } from './processes';

const KILLS = 200;
const SEED = Number(process.env['INKWELL_SEED'] ?? 20261129);
/** Who writes meanwhile, each on a master of their own, with whichever server answers. */
const WRITERS: readonly Who[] = [INES, BRAM, { id: 'noor-halvorsen-1', name: 'Noor Halvorsen' }];

let folder: string;
let database: Awaited<ReturnType<typeof startPostgres>>;
let servers: RunningServer[];
let workers: Running[];
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'inkwell-killed-together-'));
  database = await startPostgres(join(folder, 'postgres'));
  await migrate(database.owner);
  const place = { database: database.url, shelf: join(folder, 'shelf') };
  servers = [await RunningServer.on(place), await RunningServer.on(place)];
  workers = [Running.worker(place), Running.worker(place), Running.worker(place)];
  // The first makes what the others find.
  servers[0]!.begin();
  await servers[0]!.ready();
  for (const one of [servers[1]!, ...workers]) one.begin();
  await servers[1]!.ready();
});
afterAll(async () => {
  await Promise.all([...servers, ...workers].map((one) => one.kill()));
  database.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** Numbers that look drawn, the same for the same seed. @see fc, which would draw all of them before the first */
function* drawn(seed: number): Generator<number, never> {
  for (let state = seed >>> 0 || 1; ;) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    yield state / 2 ** 32;
  }
}

/** Asks one server after the other until one answers with what counts: neither silence nor “not now”. */
async function asked<T>(method: string, path: string, body?: unknown, who?: Who): Promise<{ status: number; body: T }> {
  let answer: { status: number; body: T } | undefined;
  let turn = 0;
  await until(async () => {
    const found = await servers[turn++ % servers.length]!.ask<T>(method, path, body, who);
    if (found.status === 0 || found.status === 503) return false;
    answer = found as { status: number; body: T };
    return true;
  }, `an answer to ${method} ${path}`);
  return answer!;
}
const view = async (id: string) => MasterView.parse((await asked('GET', `/api/masters/${id}`)).body);
const draftOf = async (id: string, who: Who) =>
  (await asked<{ draft: DraftView | null }>('GET', `/api/masters/${id}/draft`, undefined, who)).body.draft;
const documentOf = async (id: string, rev: number) =>
  (await asked<{ document: Master }>('GET', `/api/masters/${id}/revisions/${rev}`)).body.document;

/** Somebody who names the board anew again and again, and remembers what was acknowledged. */
class Writer {
  private steps: Step[] = [];
  private after!: Master;
  private rev = 1;
  private life = '';
  private count = 0;
  /** How often nobody knew whether something had come about, and it had. */
  lostAnswers = 0;

  private constructor(
    readonly id: string,
    private readonly who: Who,
  ) {}

  static async on(who: Who): Promise<Writer> {
    const title = `Written by ${who.name}`;
    const { id } = (await asked<{ id: string }>('POST', '/api/masters', { title, purpose: 'panel', owner: '' })).body;
    for (const target of ['svg', 'dxf'])
      expect((await asked('POST', `/api/masters/${id}/copies`, { target, label: target })).status).toBe(200);
    const made = new Writer(id, who);
    const { life, head } = await view(id);
    made.life = life;
    made.rev = head;
    made.after = await documentOf(id, head);
    return made;
  }

  private hash = (): string => journalHashes(this.life, this.rev, this.steps).at(-1)!;

  async write(server: RunningServer): Promise<void> {
    if (this.steps.length >= 4) return this.update(server);
    const { label, patches } = setAttribute(this.after, 'board-1', 'name', `Name ${this.count++}`);
    const { master, step } = stepOf(this.after, label, patches);
    const body = { base: this.rev, position: this.steps.length, hash: this.hash(), steps: [step] };
    const { status } = await server.ask('POST', `/api/masters/${this.id}/draft/steps`, body, this.who);
    if (status !== 200) {
      expect([0, 503]).toContain(status);
      // What was acknowledged is there; this one is, or is not.
      const there = (await draftOf(this.id, this.who))?.steps ?? [];
      expect([this.steps, [...this.steps, step]]).toContainEqual(there);
      if (there.length === this.steps.length) return;
      this.lostAnswers++;
    }
    this.steps.push(step);
    this.after = master;
  }

  private async update(server: RunningServer): Promise<void> {
    const body = { base: this.rev, position: this.steps.length, hash: this.hash(), message: '' };
    const { status } = await server.ask('POST', `/api/masters/${this.id}/update`, body, this.who);
    if (status !== 200) {
      expect([0, 503]).toContain(status);
      const { head } = await view(this.id);
      expect([this.rev, this.rev + 1]).toContain(head);
      if (head === this.rev) return;
      this.lostAnswers++;
    }
    this.rev++;
    this.steps = [];
    expect(nodeHash(await documentOf(this.id, this.rev))).toBe(nodeHash(this.after));
  }

  /** Everything that was acknowledged is there, and every copy follows. */
  async assertWhole(): Promise<void> {
    const { head, copies, notices, folder: at } = await view(this.id);
    expect(head).toBe(this.rev);
    expect((await draftOf(this.id, this.who))?.steps ?? []).toEqual(this.steps);
    expect(notices).toEqual([]);
    expect(copies.map(({ label, verdict }) => [label, verdict]).sort()).toEqual([
      ['dxf', 'in step'],
      ['svg', 'in step'],
    ]);
    const file = readPackage(readFileSync(join(folder, 'shelf', at, `${at.split('/').pop()}.inkwell`)));
    expect([file.rev, nodeHash(file.master)]).toEqual([head, nodeHash(await documentOf(this.id, head))]);
  }
}

it(`two servers, three workers and PostgreSQL, of which one is killed ${KILLS} times (seed ${SEED}), lose nothing that was acknowledged`, async () => {
  const chance = drawn(SEED);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance.next().value * list.length)]!;
  const writers: Writer[] = [];
  for (const who of WRITERS) writers.push(await Writer.on(who));
  let isOver = false;
  const writing = Promise.all(
    writers.map(async (writer, i) => {
      for (let turn = i; !isOver; turn++) await writer.write(servers[turn % servers.length]!);
    }),
  );
  // Whoever fails ends the killing, too.
  writing.catch(() => (isOver = true));
  const killed = { server: 0, worker: 0, PostgreSQL: 0 };
  for (let i = 0; i < KILLS && !isOver; i++) {
    const what = pick(['server', 'worker', 'PostgreSQL'] as const);
    await new Promise((later) => setTimeout(later, chance.next().value * 500));
    killed[what]++;
    if (what === 'PostgreSQL') {
      process.kill(database.pid(), 'SIGKILL');
      await database.ended();
      // What hung on it holds its memory for a moment.
      const isBack = () =>
        database.again().then(
          () => true,
          () => false,
        );
      await until(isBack, 'PostgreSQL back');
    } else {
      const one = pick(what === 'server' ? servers : workers);
      await one.kill();
      one.begin();
      if (one instanceof RunningServer) await one.ready();
    }
  }
  isOver = true;
  await writing;
  const own = new Database(database.url, 1);
  const jobs = new Jobs(own);
  await until(() => jobs.isIdle().catch(() => false), 'all jobs done');
  await own.close();
  for (const writer of writers) {
    // Copies are at the head when somebody asks for them.
    for (const { id } of (await view(writer.id)).copies) await asked('POST', `/api/copies/${id}/derive`);
  }
  const after = new Database(database.url, 1);
  await until(() => new Jobs(after).isIdle().catch(() => false), 'all copies derived');
  await after.close();
  for (const writer of writers) await writer.assertWhole();
  const lost = writers.reduce((sum, one) => sum + one.lostAnswers, 0);
  console.log(`killed ${JSON.stringify(killed)}; ${lost} answers were lost on their way, and what they said had come about`);
});

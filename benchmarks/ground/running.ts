import { type ChildProcess, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { NAME_HEADER, PERSON_HEADER } from '@inkwell-twin/api';
import { startPostgres, type RunningPostgres } from '../../scripts/lib/postgres.mjs';

/** The built product, beside the built benchmarks. */
const dist = join(dirname(fileURLToPath(import.meta.url)), '../node');
export const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

const freePort = (): Promise<number> =>
  new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => done(port));
    });
  });

export type PartName = 'server' | 'worker' | 'PostgreSQL';

/** A whole workshop as `npm start` runs it, in processes of its own, each of which can be ended the hard way. */
export class RunningWorkshop {
  private readonly parts = new Map<'server' | 'worker', ChildProcess>();
  private stopping = false;

  private constructor(
    readonly folder: string,
    readonly postgres: RunningPostgres,
    private readonly port: number,
  ) {}

  /** @param prepare fills the database and the shelf before the server starts */
  static async start(
    prepare: (client: pg.Client, shelf: string) => Promise<void> = async () => undefined,
  ): Promise<RunningWorkshop> {
    const folder = mkdtempSync(join(tmpdir(), 'inkwell-ground-'));
    mkdirSync(join(folder, 'shelf'));
    const postgres = await startPostgres(join(folder, 'postgres'));
    const made = new RunningWorkshop(folder, postgres, await freePort());
    await made.once('migrate', { INKWELL_DATABASE: postgres.owner });
    const client = new pg.Client(postgres.owner);
    await client.connect();
    await prepare(client, made.shelf);
    await client.end();
    made.run('server');
    made.run('worker');
    await made.isWell();
    return made;
  }

  get shelf(): string {
    return join(this.folder, 'shelf');
  }
  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  private spawn(bundle: string, env: Record<string, string>, ...args: string[]): ChildProcess {
    return spawn(process.execPath, [join(dist, `${bundle}.mjs`), ...args], {
      stdio: ['ignore', 'ignore', 'ignore'],
      env: { ...process.env, ...env },
    });
  }
  private once(bundle: string, env: Record<string, string>, ...args: string[]): Promise<unknown> {
    return new Promise((done) => this.spawn(bundle, env, ...args).once('exit', done));
  }

  /** Runs a part, and again whenever it ends. */
  private run(part: 'server' | 'worker'): void {
    const child = this.spawn(part, {
      INKWELL_DATABASE: this.postgres.url,
      INKWELL_SHELF: this.shelf,
      INKWELL_PORT: String(this.port),
      INKWELL_UPLOADS: join(this.folder, 'uploads'),
    });
    this.parts.set(part, child);
    child.once('exit', () => {
      if (!this.stopping) setTimeout(() => this.run(part), 200);
    });
  }

  /** As a power cut would end it; it comes back by itself, PostgreSQL by our hand. */
  async kill(part: PartName): Promise<void> {
    if (part !== 'PostgreSQL') return void this.parts.get(part)?.kill('SIGKILL');
    process.kill(this.postgres.pid(), 'SIGKILL');
    await this.postgres.ended();
    for (;;) {
      await pause(300);
      try {
        return await this.postgres.again();
      } catch {
        /* its children are not gone yet */
      }
    }
  }

  /** Milliseconds until the server answers that it can work. */
  async isWell(): Promise<number> {
    const begun = performance.now();
    while (!(await fetch(`${this.url}/api/health`).catch(() => null))?.ok) await pause(20);
    return performance.now() - begun;
  }

  /** Memory of a part, MB. */
  memory(part: 'server' | 'worker' = 'server'): number {
    const status = readFileSync(`/proc/${this.parts.get(part)!.pid}/status`, 'utf8');
    return Number(/VmRSS:\s+(\d+)/.exec(status)![1]) / 1024;
  }

  /** Ends the server in order and starts it again. @returns milliseconds until it answers */
  async restartServer(): Promise<number> {
    const child = this.parts.get('server')!;
    const ended = new Promise((done) => child.once('exit', done));
    child.kill('SIGTERM');
    await ended;
    const begun = performance.now();
    await this.isWell();
    return performance.now() - begun;
  }

  async call<T = Record<string, never>>(
    method: string,
    path: string,
    body?: unknown,
    person = 'benchmark-person',
  ): Promise<{ status: number; body: T; size: number }> {
    const response = await fetch(this.url + path, {
      method,
      headers: {
        [PERSON_HEADER]: person,
        [NAME_HEADER]: person,
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const text = await response.text();
    return { status: response.status, body: (text ? JSON.parse(text) : null) as T, size: text.length };
  }

  async bringIn(name: string, bytes: Uint8Array): Promise<string> {
    const response = await fetch(`${this.url}/api/bring-in?name=${name}`, { method: 'POST', body: bytes as never });
    return ((await response.json()) as { id: string }).id;
  }

  /** Waits until no job waits or runs. */
  async idle(most = 300_000): Promise<void> {
    const client = new pg.Client(this.postgres.url);
    client.on('error', () => undefined);
    await client.connect();
    for (const end = Date.now() + most; Date.now() < end; await pause(100)) {
      const { rows } = await client.query(
        "select from pgboss.job where state < 'completed' and name in ('small', 'large') limit 1",
      );
      if (!rows.length) break;
    }
    await client.end();
  }

  async stop(): Promise<void> {
    this.stopping = true;
    await Promise.all(
      [...this.parts.values()].map((child) => {
        if (child.exitCode !== null || child.signalCode !== null) return undefined;
        const ended = new Promise((done) => child.once('exit', done));
        child.kill('SIGTERM');
        return ended;
      }),
    );
    this.postgres.stop();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** The time below which so large a share of the measured ones lies. */
export const percentile = (times: readonly number[], share: number): number =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * share))]!;

export async function timed(work: () => Promise<unknown>): Promise<number> {
  const begun = performance.now();
  await work();
  return performance.now() - begun;
}

/** Share of the processors' time, in %, that the host gave to others since this was called: it makes every figure worse. */
export function watchStolen(): () => number {
  const read = () => readFileSync('/proc/stat', 'utf8').split('\n')[0]!.split(/\s+/).slice(1, 9).map(Number);
  const before = read();
  return () => {
    const spent = read().map((value, i) => value - before[i]!);
    return (100 * (spent[7] ?? 0)) / spent.reduce((sum, value) => sum + value, 0);
  };
}

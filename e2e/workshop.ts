import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freshDatabase } from '../packages/server/test/database';

const freePort = (): Promise<number> =>
  new Promise((done) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => done(port));
    });
  });

/** A server and a worker of its own on a database and a shelf of its own, which a test can kill and start again. */
export class TestWorkshop {
  private processes: ChildProcess[] = [];
  readonly shelf: string;
  readonly url: string;

  private constructor(
    private readonly database: { owner: string; app: string },
    private readonly port: number,
    private readonly demo: boolean | 'yes',
  ) {
    this.shelf = mkdtempSync(join(tmpdir(), 'inkwell-shelf-'));
    this.url = `http://127.0.0.1:${port}`;
  }

  static async open(name: string, demo: boolean | 'yes' = true): Promise<TestWorkshop> {
    const workshop = new TestWorkshop(await freshDatabase(name), await freePort(), demo);
    await workshop.start();
    return workshop;
  }

  /** For what a test does to the rows themselves. */
  get ownerUrl(): string {
    return this.database.owner;
  }

  private run(bundle: string, env: Record<string, string>, ...args: string[]): ChildProcess {
    return spawn(process.execPath, ['--enable-source-maps', `dist/${bundle}.mjs`, ...args], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, INKWELL_SHELF: this.shelf, ...env },
    });
  }

  async start(): Promise<void> {
    const migrating = this.run('server', { INKWELL_DATABASE: this.database.owner }, '--migrate');
    const left = await new Promise((done) => migrating.once('exit', done));
    if (left !== 0) throw new Error(`The migration ended with ${left}.`);
    this.processes = [
      this.run('server', {
        INKWELL_DATABASE: this.database.app,
        INKWELL_PORT: String(this.port),
        INKWELL_UPLOADS: `${this.shelf}-uploads`,
        INKWELL_WEB: join(process.cwd(), 'dist/web/browser'),
        INKWELL_DEMO: this.demo === 'yes' ? 'yes' : this.demo ? 'drawings' : '',
      }),
      this.run('worker', { INKWELL_DATABASE: this.database.app }),
    ];
    for (let i = 0; i < 600; i++) {
      const ended = this.processes.find((one) => one.exitCode !== null);
      if (ended) throw new Error(`${ended.spawnargs.join(' ')} ended with ${ended.exitCode}.`);
      const answer = await fetch(`${this.url}/api/health`, { signal: AbortSignal.timeout(5_000) }).catch(() => null);
      if (answer?.ok) return;
      await new Promise((done) => setTimeout(done, 100));
    }
    throw new Error('The server did not start.');
  }

  /** Ends server and worker the hard way, as a power cut would. */
  async kill(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    await Promise.all(
      this.processes.map(async (one) => {
        if (one.exitCode !== null || one.signalCode !== null) return;
        const ended = new Promise((done) => one.once('exit', done));
        one.kill(signal);
        await ended;
      }),
    );
  }

  async close(): Promise<void> {
    await this.kill('SIGTERM');
    rmSync(this.shelf, { recursive: true, force: true });
    rmSync(`${this.shelf}-uploads`, { recursive: true, force: true });
  }
}

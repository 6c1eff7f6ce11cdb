import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';

const freePort = (): Promise<number> =>
  new Promise((done) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => done(port));
    });
  });

/** A server of its own on a database and a shelf of its own, which a test can kill and start again. */
export class TestWorkshop {
  private server: ChildProcess | undefined;
  readonly shelf: string;
  url = '';

  private constructor(
    private readonly database: string,
    private readonly port: number,
    private readonly demo: boolean,
  ) {
    this.shelf = mkdtempSync(join(tmpdir(), 'inkwell-shelf-'));
    this.url = `http://127.0.0.1:${port}`;
  }

  static async open(name: string, demo = true): Promise<TestWorkshop> {
    const admin = process.env['INKWELL_TEST_DATABASE'];
    if (!admin) throw new Error('INKWELL_TEST_DATABASE is not set: run the tests with npm test');
    const client = new pg.Client(admin);
    await client.connect();
    await client.query(`drop database if exists ${name}`);
    await client.query(`create database ${name}`);
    await client.end();
    const workshop = new TestWorkshop(admin.replace(/\/[^/]*$/, `/${name}`), await freePort(), demo);
    await workshop.start();
    return workshop;
  }

  async start(): Promise<void> {
    this.server = spawn(process.execPath, ['--enable-source-maps', 'dist/server.mjs'], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: {
        ...process.env,
        INKWELL_DATABASE: this.database,
        INKWELL_PORT: String(this.port),
        INKWELL_SHELF: this.shelf,
        INKWELL_WEB: join(process.cwd(), 'dist/web/browser'),
        INKWELL_DEMO: this.demo ? 'yes' : '',
      },
    });
    for (let i = 0; i < 300; i++) {
      const answer = await fetch(`${this.url}/api/health`).catch(() => null);
      if (answer?.ok) return;
      await new Promise((done) => setTimeout(done, 100));
    }
    throw new Error('The server did not start.');
  }

  /** Ends the server the hard way, as a power cut would. */
  async kill(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    const server = this.server;
    if (!server || server.exitCode !== null) return;
    const ended = new Promise((done) => server.once('exit', done));
    server.kill(signal);
    await ended;
  }

  async close(): Promise<void> {
    await this.kill('SIGTERM');
    rmSync(this.shelf, { recursive: true, force: true });
  }
}

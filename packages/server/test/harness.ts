import { mkdtempSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { Workshop, createApp, loadDemo, migrate } from '../src';

/** A workshop on a database and a shelf of its own, with its routes on a free port. */
export class TestServer {
  url = '';
  readonly problems: unknown[] = [];
  private server: Server | undefined;
  workshop!: Workshop;

  private constructor(
    readonly database: string,
    readonly shelf: string,
  ) {}

  static async open(name: string, demo = false): Promise<TestServer> {
    const admin = process.env['INKWELL_TEST_DATABASE'];
    if (!admin) throw new Error('INKWELL_TEST_DATABASE is not set: run the tests with npm test');
    const client = new pg.Client(admin);
    await client.connect();
    await client.query(`drop database if exists ${name} with (force)`);
    await client.query(`create database ${name}`);
    await client.end();
    const made = new TestServer(admin.replace(/\/[^/]*$/, `/${name}`), mkdtempSync(join(tmpdir(), 'inkwell-shelf-')));
    await made.start(demo);
    return made;
  }

  async start(demo = false): Promise<void> {
    this.workshop = new Workshop(this.database, this.shelf, (_, error) => this.problems.push(error));
    await migrate(this.workshop.database);
    if (demo) await loadDemo(this.workshop);
    this.server = await new Promise<Server>((done) => {
      const server = createApp(this.workshop, null).listen(0, '127.0.0.1', () => done(server));
    });
    this.url = `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
    await this.workshop.open();
  }

  async stop(): Promise<void> {
    this.server?.closeAllConnections();
    await new Promise((done) => this.server?.close(done));
    await this.workshop.close();
  }

  async close(): Promise<void> {
    await this.stop();
    rmSync(this.shelf, { recursive: true, force: true });
  }

  /** A call and its answer, whatever the status. */
  async call<T = Record<string, never>>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }> {
    const response = await fetch(this.url + path, {
      method,
      ...(body === undefined ? {} : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
    });
    const text = await response.text();
    return { status: response.status, body: (text ? JSON.parse(text) : null) as T };
  }

  async bringIn<T = { id: string }>(name: string, bytes: string | Uint8Array): Promise<{ status: number; body: T }> {
    const response = await fetch(`${this.url}/api/bring-in?name=${encodeURIComponent(name)}`, {
      method: 'POST',
      body: bytes as never,
    });
    return { status: response.status, body: (await response.json()) as T };
  }

  async idle(): Promise<void> {
    await this.workshop.files.idle();
    await this.workshop.jobs.idle();
  }
}

/** Waits until something holds, at most five seconds. */
export async function until(holds: () => Promise<boolean>, what: string): Promise<void> {
  for (const end = Date.now() + 5000; Date.now() < end;) {
    if (await holds()) return;
    await new Promise((done) => setTimeout(done, 50));
  }
  throw new Error(`It did not come about: ${what}`);
}

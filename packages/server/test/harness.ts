import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { NAME_HEADER, PERSON_HEADER, readMatch } from '@inkwell-twin/api';
import { type Drawing, type Master, type Step, journalHashes, kindById } from '@inkwell-twin/core';
import { Workshop, createApp } from '../src';
import { freshDatabase } from './database';
import { finishedDemo } from './finished-demo';

/** Who asks in a test unless it says otherwise. */
export const INES = { id: 'ines-okoro-1', name: 'Ines Okoro' };
export const BRAM = { id: 'bram-adler-1', name: 'Bram Adler' };
export type Who = typeof INES;
/** Who asks, as headers say it. */
export const headersOf = ({ id, name }: Who): Record<string, string> => ({
  [PERSON_HEADER]: id,
  [NAME_HEADER]: encodeURIComponent(name),
});

/** A workshop on a database and a shelf of its own, with its routes on a free port. */
export class TestServer {
  url = '';
  readonly problems: unknown[] = [];
  private readonly lives = new Map<string, string>();
  private server: Server | undefined;
  workshop!: Workshop;

  private constructor(
    readonly database: { owner: string; app: string },
    readonly shelf: string,
    private readonly concurrency: number,
  ) {}

  /** @param concurrency threads of each kind: a thread costs a second, and most tests ask one thing after the other */
  static async open(name: string, concurrency = 1): Promise<TestServer> {
    const made = new TestServer(await freshDatabase(name), mkdtempSync(join(tmpdir(), 'inkwell-shelf-')), concurrency);
    await made.start();
    return made;
  }

  /** With the drawings of the demo, and all work of them done. */
  static async withDemo(name: string): Promise<TestServer> {
    const { database, shelf } = await finishedDemo('drawings', async (folder) => {
      const first = new TestServer(await freshDatabase('demo'), join(folder, 'shelf'), 1);
      await first.start({ demo: 'drawings' });
      await first.idle();
      await first.stop();
      return { database: first.database.owner, shelf: first.shelf };
    });
    const made = new TestServer(await freshDatabase(name, database), mkdtempSync(join(tmpdir(), 'inkwell-shelf-')), 1);
    cpSync(shelf, made.shelf, { recursive: true, preserveTimestamps: true });
    await made.start();
    return made;
  }

  /** On data that is there already. */
  static async on(database: { owner: string; app: string }, shelf: string): Promise<TestServer> {
    const made = new TestServer(database, shelf, 1);
    await made.start();
    return made;
  }

  /** @param works whether jobs are done; without, they wait */
  async start({ demo, works = true }: { demo?: 'drawings'; works?: boolean } = {}): Promise<void> {
    const settings = {
      database: this.database.app,
      shelf: this.shelf,
      uploads: `${this.shelf}-uploads`,
      bench: `${this.shelf}-bench`,
      works,
      concurrency: this.concurrency,
    };
    this.workshop = new Workshop(settings, (what, error) => this.problems.push([what, error]));
    if (demo) await this.workshop.loadDemo([demo]);
    this.server = await new Promise<Server>((done) => {
      const server = createApp(this.workshop, null).listen(0, '127.0.0.1', () => done(server));
    });
    // Server and browser are one process here: while it computes, neither sees the other close a connection that rests.
    this.server.keepAliveTimeout = 0;
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
    rmSync(`${this.shelf}-uploads`, { recursive: true, force: true });
  }

  /** A call and its answer, whatever the status. */
  async call<T = Record<string, never>>(
    method: string,
    path: string,
    body?: unknown,
    who: Who = INES,
  ): Promise<{ status: number; body: T; headers: Headers }> {
    const response = await fetch(this.url + path, {
      method,
      headers: { ...headersOf(who), ...(body === undefined ? {} : { 'Content-Type': 'application/json' }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const text = await response.text();
    return { status: response.status, body: (text ? JSON.parse(text) : null) as T, headers: response.headers };
  }

  async bringIn<T = { id: string }>(name: string, bytes: string | Uint8Array): Promise<{ status: number; body: T }> {
    const response = await fetch(`${this.url}/api/bring-in?name=${encodeURIComponent(name)}`, {
      method: 'POST',
      body: bytes as never,
    });
    return { status: response.status, body: (await response.json()) as T };
  }

  /** A full comparison with both sides of one of its sheets. */
  async match(id: string, leaf = 0) {
    const response = await fetch(`${this.url}/api/copies/${id}/match?leaf=${leaf}`);
    const { view, master, copy } = readMatch(await response.arrayBuffer());
    const opened = (body: typeof master) => body && kindById(body.kind).unpack(body as never);
    return { view, master: opened(master) as Drawing | null, copy: opened(copy) as Drawing | null };
  }

  /** The document of a master at its head, or at a revision. */
  async document(id: string, rev?: number): Promise<Master> {
    const at = rev ?? (await this.call<{ head: number }>('GET', `/api/masters/${id}`)).body.head;
    return (await this.call<{ document: Master }>('GET', `/api/masters/${id}/revisions/${at}`)).body.document;
  }

  /** What names each state of a draft: before its first step, and after each. */
  async hashes(id: string, base: number, steps: readonly Step[]): Promise<string[]> {
    // A browser knows it from when it opened the master, and goes on when the database is away.
    const rows = await this.workshop.database
      .rows<{ life: string }>('select life from master where id = $1', [id])
      .catch((error: unknown) => {
        if (!this.lives.has(id)) throw error;
        return [];
      });
    if (rows[0]) this.lives.set(id, rows[0].life);
    return journalHashes(this.lives.get(id) ?? '', base, steps);
  }

  /** Adds steps to a draft that holds `before` already, as a browser would. */
  async addSteps<T = { position: number; hash: string }>(
    id: string,
    base: number,
    before: readonly Step[],
    steps: readonly Step[],
    who: Who = INES,
  ) {
    const body = { base, position: before.length, hash: (await this.hashes(id, base, before)).at(-1), steps };
    return this.call<T>('POST', `/api/masters/${id}/draft/steps`, body, who);
  }

  /** Updates a master with the draft that holds these steps. */
  async update(id: string, base: number, steps: readonly Step[], message = '', who: Who = INES) {
    const body = { base, position: steps.length, hash: (await this.hashes(id, base, steps)).at(-1), message };
    return this.call<{ rev: number; job: string }>('POST', `/api/masters/${id}/update`, body, who);
  }

  /** Waits until no job waits or runs. */
  async idle(): Promise<void> {
    await until(() => this.workshop.jobs.isIdle(), 'all jobs done');
  }
}

/** Minutes after which what is waited for never comes; how soon it comes is measured in the benchmarks. */
const HANG = 10;

/**
 * Waits until something holds.
 * @param what names it, and may say how it stands instead
 * @throws Error where it never does
 */
export async function until(holds: () => Promise<boolean>, what: string | (() => string)): Promise<void> {
  for (const end = Date.now() + HANG * 60_000; Date.now() < end;) {
    if (await holds()) return;
    await new Promise((done) => setTimeout(done, 40));
  }
  throw new Error(`It did not come about: ${typeof what === 'string' ? what : what()}`);
}

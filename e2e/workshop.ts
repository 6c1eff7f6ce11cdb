import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Locator, Page, TestInfo } from '@playwright/test';
import pg from 'pg';
import { freshDatabase } from '../packages/server/test/database';
import { type Finished, finishedDemo } from '../packages/server/test/finished-demo';
import { freePort } from '../scripts/lib/postgres.mjs';

/** Milliseconds after which a server that has not started never will. */
const HANG = 600_000;

/** What a workshop begins with: nothing, the drawings of the demo, or all of the demo. */
type Demo = false | true | 'yes';

/** A server and a worker of its own on a database and a shelf of its own, which a test can kill and start again. */
export class TestWorkshop {
  private processes: ChildProcess[] = [];
  readonly shelf: string;
  readonly url: string;

  private constructor(
    private readonly database: { owner: string; app: string },
    private readonly port: number,
    private readonly demo: Demo,
  ) {
    this.shelf = mkdtempSync(join(tmpdir(), 'inkwell-shelf-'));
    this.url = `http://127.0.0.1:${port}`;
  }

  static async open(name: string, demo: Demo = true): Promise<TestWorkshop> {
    if (!demo) return new TestWorkshop(await freshDatabase(name), await freePort(), demo).started();
    const { database, shelf } = await TestWorkshop.finished(demo);
    const workshop = new TestWorkshop(await freshDatabase(name, database), await freePort(), demo);
    cpSync(shelf, workshop.shelf, { recursive: true, preserveTimestamps: true });
    return workshop.started();
  }

  private static shared: Promise<TestWorkshop> | undefined;

  /**
   * A workshop without the demo. Tests of the usual run share one in each worker, and each makes masters of its own; those of the
   * long run have one each, with nothing in it.
   */
  static emptyFor({ tags, workerIndex }: TestInfo): Promise<TestWorkshop> {
    const name = `empty_${workerIndex}`;
    if (tags.includes('@long')) return TestWorkshop.open(name, false);
    return (TestWorkshop.shared ??= TestWorkshop.open(name, false).then((made) => {
      // With the worker goes what it shared.
      process.once('exit', () => made.end());
      return made;
    }));
  }

  /** The demo with all work of it done. */
  private static finished(demo: Demo): Promise<Finished> {
    return finishedDemo(demo === 'yes' ? 'whole' : 'drawings', async (folder) => {
      const workshop = new TestWorkshop(await freshDatabase('demo'), await freePort(), demo);
      await workshop.start();
      const client = new pg.Client({ connectionString: workshop.database.owner });
      await client.connect();
      const last = demo === 'yes' ? 'demo small' : 'demo';
      for (let quiet = 0; quiet < 3; await new Promise((done) => setTimeout(done, 500))) {
        const { rows } = await client.query(
          `select exists (select from setting where name = $1 and value = 'loaded') and not exists (
             select from pgboss.job where state < 'completed' and name in ('small', 'large')) as done`,
          [last],
        );
        quiet = rows[0].done ? quiet + 1 : 0;
      }
      await client.end();
      await workshop.kill('SIGTERM');
      const shelf = join(folder, 'shelf');
      cpSync(workshop.shelf, shelf, { recursive: true, preserveTimestamps: true });
      workshop.clear();
      return { database: workshop.database.owner, shelf };
    });
  }

  private async started(): Promise<this> {
    await this.start();
    return this;
  }

  /** For what a test does to the rows themselves. */
  get ownerUrl(): string {
    return this.database.owner;
  }

  private run(bundle: string, env: Record<string, string>): ChildProcess {
    return spawn(process.execPath, ['--enable-source-maps', `dist/node/${bundle}.mjs`], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, INKWELL_SHELF: this.shelf, ...env },
    });
  }

  async start(): Promise<void> {
    this.processes = [
      this.run('server', {
        INKWELL_DATABASE: this.database.app,
        INKWELL_PORT: String(this.port),
        INKWELL_UPLOADS: `${this.shelf}-uploads`,
        INKWELL_BENCH: `${this.shelf}-bench`,
        INKWELL_WEB: join(process.cwd(), 'dist/web/browser'),
        INKWELL_DEMO: this.demo === 'yes' ? 'yes' : this.demo ? 'drawings' : '',
      }),
      this.run('worker', { INKWELL_DATABASE: this.database.app, INKWELL_NICE: '0' }),
      this.run('bench', { INKWELL_BENCH: `${this.shelf}-bench` }),
    ];
    for (const end = Date.now() + HANG; Date.now() < end;) {
      const ended = this.processes.find((one) => one.exitCode !== null);
      if (ended) throw new Error(`${ended.spawnargs.join(' ')} ended with ${ended.exitCode}.`);
      const answer = await fetch(`${this.url}/api/health`).catch(() => null);
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
    this.clear();
  }

  /** The end of one test: of the workshop, too, unless others share it. */
  async leave(): Promise<void> {
    if (this !== (await TestWorkshop.shared)) await this.close();
  }

  private end(): void {
    for (const one of this.processes) one.kill('SIGKILL');
    this.clear();
  }

  private clear(): void {
    for (const path of [this.shelf, `${this.shelf}-uploads`, `${this.shelf}-bench`])
      rmSync(path, { recursive: true, force: true });
  }
}

const pageOf = (scope: Page | Locator): Page => ('page' in scope ? scope.page() : scope);

/** Chooses from a list that folds out. */
export async function choose(scope: Page | Locator, label: string, option: string): Promise<void> {
  await scope.getByRole('combobox', { name: label }).click();
  await pageOf(scope).getByRole('option', { name: option, exact: true }).click();
}

/** Does one of the things that a button offers. */
export async function chooseAct(scope: Page | Locator, button: string, act: string): Promise<void> {
  await scope.getByRole('button', { name: button }).click();
  await pageOf(scope).getByRole('menuitem', { name: act, exact: true }).click();
}

/** How places of the board, in millimetres, lie on the screen: read from what the foot of the stage says of the pointer. */
export async function places(page: Page): Promise<(x: number, y: number) => [number, number]> {
  const stage = (await page.locator('twin-stage canvas.board').boundingBox())!;
  const reading = page.locator('twin-foot-bar .pointer');
  // Where no slip and no message lies.
  const point = async (share: number) => {
    const [x, y] = [stage.x + stage.width * share, stage.y + stage.height * 0.3];
    await page.mouse.move(x, y);
    const [mmX, mmY] = (await reading.textContent())!.split(',').map(Number) as [number, number];
    return { x, y, mmX, mmY };
  };
  const [first, last] = [await point(0.3), await point(0.95)];
  const scale = (last.x - first.x) / (last.mmX - first.mmX);
  return (x, y) => [first.x + (x - first.mmX) * scale, first.y - (y - first.mmY) * scale];
}

import { DEMO_COUNTS, type DemoPart } from '@inkwell-twin/demo';
import { Bench } from './bench/bench';
import { MachineFolders } from './bench/folders';
import { Compute } from './compute/compute';
import { KeyedCompute } from './compute/keyed-compute';
import { CONNECTIONS, THREADS } from './database/connections';
import { Database } from './database/database';
import { Events } from './events';
import { type CopyRow, namesOf } from './copies/rows';
import { Jobs } from './jobs/jobs';
import { JobRunner } from './jobs/runner';
import { assertSameShelf } from './shelf/same-shelf';
import { clearThrown } from './masters/thrown';
import { Presence } from './presence';
import { Remembered } from './remembered';
import { summaryOf } from './routes/desk';
import { demoLoaded, partsToLoad } from './setup/load-demo';
import { endMoves } from './shelf/moves';
import { Shelf } from './shelf/shelf';
import { ShelfWatcher } from './shelf/watcher';

/** Milliseconds. */
const SUMMARY_AGE = 5_000;
const DAY = 86_400_000;
/** Between two tries to load the demo. */
const DEMO_PAUSE = 30_000;
/** Seconds of work on a part of the demo, which is ours and ends: a guard against hanging. */
const DEMO_LIMIT = 3_600;

export interface WorkshopSettings {
  /** For the role that the application works as. */
  readonly database: string;
  readonly shelf: string;
  /** Where files that come in lie until they are dealt with. */
  readonly uploads: string;
  /** Where the folders of machines are. */
  readonly bench: string;
  /** Whether this process does jobs too; `npm start` has processes of their own for them. */
  readonly works: boolean;
  /** Threads for what somebody waits for; of one alone, what is small waits for what is large. */
  readonly concurrency?: number;
}

/**
 * What the routes work with: rows, and threads for everything that is heavier. No document is ever loaded in the thread that
 * answers requests.
 */
export class Workshop {
  readonly database: Database;
  readonly shelf: Shelf;
  readonly events: Events;
  readonly presence: Presence;
  readonly bench: Bench;
  readonly jobs: Jobs;
  /** For what someone waits for. */
  readonly compute: Compute;
  /** Steps and updates have threads of their own, so that no comparison holds them up. */
  readonly journal: KeyedCompute;
  /** What the Desk says above its rows; every word of a change makes it forget. */
  readonly summary = new Remembered(() => summaryOf(this.database), SUMMARY_AGE);
  private readonly runner: JobRunner | undefined;
  private closed = false;
  /** Masters of the demo that this process brings to the Desk; 0 while it brings none. */
  private demoTotal = 0;
  private clearing: NodeJS.Timeout | undefined;
  private watcher: ShelfWatcher | undefined;

  constructor(
    readonly settings: WorkshopSettings,
    readonly log: (what: string, error: unknown) => void,
  ) {
    this.database = new Database(settings.database, CONNECTIONS.server);
    this.shelf = new Shelf(settings.shelf);
    this.shelf.clearTemporaries();
    this.jobs = new Jobs(this.database);
    this.bench = new Bench(this.database, new MachineFolders(settings.bench));
    this.presence = new Presence(
      (event) => this.events.announce(event),
      (word) => void this.jobs.here(word).catch((error: unknown) => this.closed || log('telling who is here', error)),
    );
    this.events = new Events(
      settings.database,
      ({ kind }) => {
        if (kind === 'again') this.presence.ask();
        if (kind !== 'job' && kind !== 'draft') this.summary.forget();
      },
      (word) => this.presence.hear(word),
    );
    this.compute = new Compute(settings, settings.concurrency ?? THREADS.server);
    this.journal = new KeyedCompute(settings, settings.concurrency ?? THREADS.journal);
    if (settings.works) this.runner = new JobRunner(this.database, this.jobs, this.compute, log);
  }

  /**
   * Brings parts of the demo to the Desk, or what of them is not there yet. What fails is tried again later, and at the next start.
   * @param tries how often, where something fails
   * @throws what failed last
   */
  async loadDemo(parts: readonly DemoPart[], tries = 1): Promise<void> {
    const missing = await partsToLoad(this.database, parts);
    if (missing.length) this.demoTotal = Object.values(DEMO_COUNTS).reduce((sum, count) => sum + count);
    let problem: unknown;
    for (const part of missing)
      try {
        await this.compute.run('loadDemo', { part }, { queueKey: 'demo', large: true, limit: DEMO_LIMIT });
      } catch (error) {
        if (this.closed) return;
        this.log(`loading the demo, ${part}`, error);
        problem = error;
      }
    if (problem && tries > 1) {
      await new Promise((done) => setTimeout(done, DEMO_PAUSE).unref());
      return this.closed ? undefined : this.loadDemo(parts, tries - 1);
    }
    this.demoTotal = 0;
    // Whoever shows how far it is asks again.
    if (missing.length) await this.jobs.event({ kind: 'again', master: '' });
    if (problem) throw problem;
  }

  /** How far the demo is; null where this process brings none. */
  async demoProgress(): Promise<{ done: number; total: number } | null> {
    const total = this.demoTotal;
    return total ? { done: await demoLoaded(this.database), total } : null;
  }

  /** Watches the shelf, and asks for a look at what changed there and in the records while this server was not here. */
  async open(): Promise<void> {
    await assertSameShelf(this.database, this.shelf.root);
    await this.events.open();
    this.presence.ask();
    await endMoves(this.database, this.shelf, this.log);
    await clearThrown(this.database);
    this.clearing = setInterval(() => void clearThrown(this.database).catch((error) => this.log('thrown', error)), DAY).unref();
    await this.runner?.open();
    this.watcher = new ShelfWatcher(
      this.shelf,
      // What is cut off because everything ends is found again at the next start.
      (folder, file) => void this.noticed(folder, file).catch((error) => this.closed || this.log('shelf', error)),
    );
    const { jobs } = this;
    const found = await this.compute.run('changed', {}, { queueKey: 'shelf' });
    for (const master of found.unknown) await jobs.stand(master);
    for (const { master, ids } of found.copies) await jobs.check(master, ids);
    for (const master of found.files) await jobs.writeFile(master);
    for (const master of found.outside) await this.compute.run('outsideLook', { master }, { queueKey: 'shelf' });
    for (const master of found.pictures) await jobs.picture(master);
    for (const { master } of await this.database.rows<{ master: string }>(
      "select distinct master from sidecar where state <> 'none'",
    ))
      await this.compute.run('sidecarStand', { master }, { queueKey: 'shelf' });
    for (const { master } of await this.database.rows<{ master: string }>('select distinct master from link'))
      await this.compute.run('linksStand', { master }, { queueKey: 'shelf' });
    for (const { id } of await this.database.rows<{ id: string }>('select id from master where object_names is null'))
      // A master whose record is damaged says so where it is opened.
      await this.compute.run('nameObjects', { master: id }, { queueKey: 'shelf' }).catch(() => undefined);
  }

  private async noticed(folder: string, file: string): Promise<void> {
    const rows = await this.database.rows<Pick<CopyRow, 'id' | 'master' | 'file' | 'parts' | 'file_stamp'>>(
      `select id, master, file, parts, file_stamp from copy_now
        where folder = $1 and (file = $2 or id in (select copy from copy_part where file = $2))`,
      [folder, file],
    );
    for (const row of rows)
      // What our own hands just wrote and checked is no news.
      if ((await this.compute.run('stamps', { folder, files: namesOf(row) }, { queueKey: 'shelf' })) !== row.file_stamp)
        await this.jobs.check(row.master, [row.id], undefined, file);
    for (const { master } of await this.database.rows<{ master: string }>(
      `select distinct master from link where file = $1 or position('/' || $1 || '/' in '/' || link) > 0`,
      [file],
    ))
      await this.compute.run('linksStand', { master }, { queueKey: 'shelf' });
    if (file === this.shelf.sidecarFile(folder))
      for (const { id } of await this.database.rows<{ id: string }>('select id from master where folder = $1', [folder]))
        await this.compute.run('sidecarStand', { master: id }, { queueKey: 'shelf' });
    if (file.endsWith('.xmp'))
      for (const { master } of await this.database.rows<{ master: string }>(
        // A description may have come beside a picture that had none.
        `select distinct master from link where starts_with($1, regexp_replace(file, '\\.[^.]*$', '') || '.') and state <> 'missing'`,
        [file],
      ))
        await this.compute.run('sidecarStand', { master }, { queueKey: 'shelf' });
    if (file !== this.shelf.masterFile(folder)) return;
    for (const { id } of await this.database.rows<{ id: string }>('select id from master where folder = $1', [folder]))
      await this.compute.run('outsideLook', { master: id }, { queueKey: 'shelf' });
  }

  async checkAll(master: string): Promise<string> {
    const rows = await this.database.rows<{ id: string }>('select id from copy_now where master = $1', [master]);
    return this.jobs.check(
      master,
      rows.map(({ id }) => id),
    );
  }

  async close(): Promise<void> {
    this.closed = true;
    this.watcher?.close();
    this.presence.close();
    clearInterval(this.clearing);
    await this.runner?.close();
    await this.events.close();
    await Promise.all([this.compute.close(), this.journal.close()]);
    await this.database.close();
  }
}

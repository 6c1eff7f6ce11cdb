import { Compute } from './compute/compute';
import { Copies } from './copies/copies';
import { Database } from './database/database';
import { Events } from './jobs/events';
import { Jobs } from './jobs/jobs';
import { Drafts } from './masters/drafts';
import { NativeFiles } from './masters/native-files';
import { MasterStore } from './masters/store';
import { Shelf } from './shelf/shelf';
import { ShelfWatcher } from './shelf/watcher';

/** Everything that the routes work with, wired together once. */
export class Workshop {
  readonly database: Database;
  readonly masters: MasterStore;
  readonly drafts: Drafts;
  readonly shelf: Shelf;
  readonly compute = new Compute();
  readonly copies: Copies;
  readonly files: NativeFiles;
  readonly events = new Events();
  readonly jobs: Jobs;
  private watcher: ShelfWatcher | undefined;

  constructor(
    databaseUrl: string,
    shelfFolder: string,
    readonly log: (what: string, error: unknown) => void,
  ) {
    this.database = new Database(databaseUrl);
    this.masters = new MasterStore(this.database);
    this.drafts = new Drafts(this.database, this.masters);
    this.shelf = new Shelf(shelfFolder);
    this.copies = new Copies(this.database, this.masters, this.shelf, this.compute);
    this.jobs = new Jobs(this.events, log);
    this.files = new NativeFiles(
      this.database,
      this.masters,
      this.shelf,
      this.compute,
      (master, message) => this.events.send({ kind: 'notice', master, message }),
      log,
    );
  }

  /** Looks at every copy once, writes master files that are missing or behind, and watches the shelf from then on. */
  async open(): Promise<void> {
    this.watcher = new ShelfWatcher(
      this.shelf,
      (folder, file) => void this.noticed(folder, file).catch((error) => this.log('shelf', error)),
    );
    await this.watcher.ready();
    for (const { id } of await this.masters.list()) {
      // One master that can't be read does not keep the others from being looked at.
      try {
        if (await this.files.isBehind(id)) this.files.soon(id);
        await this.checkAll(id);
      } catch (error) {
        this.log(`master ${id}`, error);
      }
    }
  }

  private async noticed(folder: string, file: string): Promise<void> {
    const row = await this.copies.byFile(folder, file);
    if (row) this.checkOne(row.id, row.master, row.file);
  }

  checkOne(id: string, master: string, label: string): string {
    return this.jobs.start(master, 'Checking', [{ label, run: () => this.copies.check(id) }]);
  }

  async checkAll(master: string): Promise<string> {
    const rows = await this.copies.ofMaster(master);
    return this.jobs.start(
      master,
      'Checking',
      rows.map(({ id, file }) => ({ label: file, run: () => this.copies.check(id) })),
    );
  }

  async close(): Promise<void> {
    await this.watcher?.close();
    await this.jobs.close();
    await this.files.idle();
    await this.compute.close();
    await this.database.close();
  }
}

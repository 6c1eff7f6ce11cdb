import { readBlob, sha256 } from '../blobs/blobs';
import type { Compute } from '../compute/compute';
import type { Database } from '../database/database';
import type { Shelf } from '../shelf/shelf';
import type { MasterStore } from './store';

/**
 * The masters' native files on the shelf. They follow the database off the request path, one after the other; what a stop
 * leaves unwritten is written at the next start.
 */
export class NativeFiles {
  private queue: Promise<void> = Promise.resolve();
  private waiting = 0;

  constructor(
    private readonly database: Database,
    private readonly masters: MasterStore,
    private readonly shelf: Shelf,
    private readonly compute: Compute,
    /** Tells people about a file that was set aside. */
    private readonly notice: (master: string, message: string) => void,
    private readonly failed: (what: string, error: unknown) => void,
  ) {}

  /** Writes a master's file when its turn comes. */
  soon(id: string): void {
    this.waiting++;
    this.queue = this.queue
      .then(() => this.write(id))
      .catch((error: unknown) => this.failed('writing a native file', error))
      .finally(() => void this.waiting--);
  }

  /** Whether the file on the shelf is missing or of another revision than the master. */
  async isBehind(id: string): Promise<boolean> {
    const { folder } = await this.masters.load(id);
    const [row] = await this.database.rows<{ behind: boolean }>(
      'select file_rev is distinct from head as behind from master where id = $1',
      [id],
    );
    return row!.behind || !this.shelf.files(folder).includes(this.shelf.masterFile(folder));
  }

  /** Resolves when nothing is left to write. */
  async idle(): Promise<void> {
    while (this.waiting) await this.queue;
  }

  /**
   * Writes a master's file. One that stands there and is not the one we wrote last is someone's work: it is set aside under
   * another name first, never written over.
   */
  async write(id: string): Promise<void> {
    const { folder, head, history, fileSha256 } = await this.masters.load(id);
    const resources = new Map<string, Uint8Array>();
    for (const { sha256: sha } of await this.database.rows<{ sha256: string }>('select sha256 from original where master = $1', [
      id,
    ]))
      resources.set(sha, await readBlob(this.database, sha));
    const bytes = await this.compute.run('package', { master: head.master, rev: head.rev, time: head.time, history, resources });
    const file = this.shelf.masterFile(folder);
    const sha = sha256(bytes);
    const standing = this.shelf.read(folder, file);
    const aside = standing && sha256(standing) !== sha ? this.shelf.clear(folder, file, fileSha256 ?? '') : null;
    this.shelf.write(folder, file, bytes);
    await this.database.pool.query('update master set file_sha256 = $2, file_rev = $3 where id = $1', [id, sha, head.rev]);
    if (aside) this.notice(id, `The master's file on the shelf had been changed by another program. It was kept as ${aside}.`);
  }
}

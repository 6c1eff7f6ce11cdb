import { Failure, type Services, type SolidEngine, addFormats, addSources } from '@inkwell-twin/core';
import { chartEngine, nodeFormats, pictureEngine, pictureSources, shippedFonts } from '@inkwell-twin/render';
import { readBlob } from '../blobs/blobs';
import { BoundedCache } from './cache';
import { keptSolids } from './kept-solids';
import { Copies } from '../copies/copies';
import { CONNECTIONS } from '../database/connections';
import { Database } from '../database/database';
import { Jobs } from '../jobs/jobs';
import { Drafts } from '../masters/drafts';
import { NativeFiles } from '../masters/native-files';
import { MasterStore } from '../masters/store';
import { Shelf } from '../shelf/shelf';

addFormats(nodeFormats);
addSources(pictureSources);

/** Bytes of kept files that a thread holds on to. */
const KEPT = 96 * 1024 * 1024;

/** Where a worker thread finds what it works on. */
export interface EngineSettings {
  readonly database: string;
  readonly shelf: string;
}

/**
 * What a worker thread works with: it loads masters by itself and keeps them, so that no document crosses from the thread
 * that answers requests, and it reads and writes the shelf.
 */
export class Engine {
  readonly database: Database;
  readonly masters: MasterStore;
  readonly shelf: Shelf;
  readonly jobs: Jobs;
  readonly drafts: Drafts;
  readonly copies: Copies;
  readonly files: NativeFiles;
  private readonly solids: SolidEngine;
  private readonly kept = new BoundedCache<Uint8Array>(KEPT);

  constructor({ database, shelf }: EngineSettings) {
    this.database = new Database(database, CONNECTIONS.thread);
    this.masters = new MasterStore(this.database);
    this.shelf = new Shelf(shelf);
    this.jobs = new Jobs(this.database);
    this.solids = keptSolids(this.database);
    this.drafts = new Drafts(this.database, this.masters);
    this.copies = new Copies(this.database, this.masters, this.shelf, () => this.services);
    this.files = new NativeFiles(this.database, this.masters, this.shelf);
  }

  /** The bytes of a kept file; the last few are at hand. */
  private async resource(sha: string): Promise<Uint8Array> {
    const known = this.kept.get(sha);
    if (known) return known;
    const bytes = await readBlob(this.database, sha).catch((error: unknown) => {
      if (error instanceof Failure && error.code === 'not-found')
        throw new Failure(
          'resource-missing',
          `The picture ${sha.slice(0, 12)}… is not kept here. Mend its link where the master’s files are listed, or bring it in again.`,
        );
      throw error;
    });
    this.kept.set(sha, bytes, bytes.length);
    return bytes;
  }

  get services(): Services {
    return {
      fonts: shippedFonts(),
      pictures: pictureEngine,
      solids: this.solids,
      charts: chartEngine,
      resource: (sha) => this.resource(sha),
    };
  }
}

import type { Means } from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { Copies } from '../copies/copies';
import { Database } from '../database/database';
import { Jobs } from '../jobs/jobs';
import { Drafts } from '../masters/drafts';
import { NativeFiles } from '../masters/native-files';
import { MasterStore } from '../masters/store';
import { Shelf } from '../shelf/shelf';

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

  constructor({ database, shelf }: EngineSettings) {
    this.database = new Database(database, 2);
    this.masters = new MasterStore(this.database);
    this.shelf = new Shelf(shelf);
    this.jobs = new Jobs(this.database);
    this.drafts = new Drafts(this.database, this.masters);
    this.copies = new Copies(this.database, this.masters, this.shelf, () => this.means);
    this.files = new NativeFiles(this.database, this.masters, this.shelf);
  }

  get means(): Means {
    return { fonts: shippedFonts() };
  }
}

import { createInterface } from 'node:readline';
import type { Services } from '@inkwell-twin/core';
import type { Engine } from '../src/compute/engine';
import { Copies } from '../src/copies/copies';
import { Database } from '../src/database/database';
import { Jobs } from '../src/jobs/jobs';
import { Drafts } from '../src/masters/drafts';
import { NativeFiles } from '../src/masters/native-files';
import { MasterStore } from '../src/masters/store';
import { updateMaster } from '../src/masters/updates';
import { Shelf } from '../src/shelf/shelf';

/** A process that does one update and what follows from it on the shelf, as soon as it is told to, so that it can be killed in it. */
async function main([url, root]: string[]): Promise<void> {
  const database = new Database(url!, 2);
  const masters = new MasterStore(database);
  const shelf = new Shelf(root!);
  const drafts = new Drafts(database, masters);
  const jobs = new Jobs(database);
  const copies = new Copies(database, masters, shelf, () => ({}) as Services);
  const files = new NativeFiles(database, masters, shelf);
  await database.rows('select');
  process.stdout.write('ready\n');
  for await (const line of createInterface({ input: process.stdin })) {
    const { id, person, ...seen } = JSON.parse(line);
    await masters.load(id);
    process.stdout.write('begun\n');
    await updateMaster({ database, masters, drafts, copies, jobs } as Engine, id, person, seen);
    await files.write(id);
    process.stdout.write('done\n');
  }
}
void main(process.argv.slice(2));

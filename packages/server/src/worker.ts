import { setPriority } from 'node:os';
import { pino } from 'pino';
import { Compute } from './compute/compute';
import { CONNECTIONS, THREADS, connectionsInWords } from './database/connections';
import { Database } from './database/database';
import { Jobs } from './jobs/jobs';
import { JobRunner } from './jobs/runner';
import { assertSameShelf } from './shelf/same-shelf';

const need = (name: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set. Start a worker with: npm run worker`);
  return value;
};

/** A process that does jobs and answers nobody: as many as one likes, here or on other machines with the same shelf. */
async function main(): Promise<void> {
  const log = pino({ level: process.env['INKWELL_LOG'] ?? 'warn' });
  const settings = { database: need('INKWELL_DATABASE'), shelf: need('INKWELL_SHELF') };
  const database = new Database(settings.database, CONNECTIONS.worker);
  await assertSameShelf(database, settings.shelf);
  // Those who wait for an answer go first. On a machine that others keep busy, a low priority would mean never.
  setPriority(Number(process.env['INKWELL_NICE'] ?? 15));
  const tight = await connectionsInWords(database, 'worker');
  if (tight) console.log(`· ${tight}`);
  const compute = new Compute(settings, THREADS.worker);
  const runner = new JobRunner(database, new Jobs(database), compute, (what, error) => log.error({ err: error }, what));
  await runner.open();
  const stop = () => {
    void runner
      .close()
      .then(() => compute.close())
      .then(() => database.close())
      .finally(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.on('disconnect', stop);
}

main().catch((error) => {
  console.error(`The worker can't start: ${(error as Error).message}`);
  process.exit(1);
});

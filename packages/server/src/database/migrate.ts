import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import PgBoss from 'pg-boss';
import { Failure } from '@inkwell-twin/core';
import { QUEUES } from '../jobs/queues';
import { Database, lockInTransaction } from './database';

/** The folder of migrations, from the bundle in dist/node or from the sources. */
function migrationFolder(): string {
  const here = fileURLToPath(new URL('.', import.meta.url));
  const found = [join(here, '../../packages/server/sql'), join(here, '../../sql')].find((folder) => existsSync(folder));
  if (!found) throw new Failure('setup', 'The SQL migrations are not where they should be: packages/server/sql.');
  return found;
}

/**
 * Runs the migrations that have not run yet, each in a transaction of its own, in order of their numbers, and makes the queues
 * of the jobs. Two starts at once take turns.
 * @param url of the role that owns the tables; the application itself has no right to change them
 */
export async function migrate(url: string): Promise<void> {
  // A migration may take as long as it has rows to change, and wait as long for one that is under way.
  const database = new Database(url, 2, { statement_timeout: 0, lock_timeout: 0, idle_in_transaction_session_timeout: 0 });
  try {
    await database.query('create table if not exists migration (name text primary key, at timestamptz not null default now())');
    const folder = migrationFolder();
    for (const name of readdirSync(folder)
      .filter((file) => file.endsWith('.sql'))
      .sort())
      await database.transaction(async (client) => {
        await lockInTransaction(client, 'migration');
        const { rowCount } = await client.query('select from migration where name = $1', [name]);
        if (rowCount) return;
        await client.query(readFileSync(join(folder, name), 'utf8'));
        await client.query('insert into migration (name) values ($1)', [name]);
      });
    await makeQueues(url, database);
  } finally {
    await database.close();
  }
}

/** The schema of the queues, which the library makes and migrates itself, and the application's right to all rows. */
async function makeQueues(url: string, database: Database): Promise<void> {
  const boss = new PgBoss({ connectionString: url, max: 1, supervise: false, schedule: false });
  boss.on('error', () => undefined);
  await boss.start();
  try {
    // At most one waiting job for each key: what is asked for twice before it began is done once.
    for (const queue of QUEUES) await boss.createQueue(queue, { name: queue, policy: 'short' });
    await database.query(`do $$ begin
      if exists (select from pg_roles where rolname = 'inkwell_app') then
        -- Stated at each start: a backup that was put back without its rights works all the same.
        grant usage on schema public, pgboss to inkwell_app;
        grant select, insert, update, delete on all tables in schema public, pgboss to inkwell_app;
        grant usage on all sequences in schema public to inkwell_app;
        revoke insert, update, delete on migration from inkwell_app;
      end if;
    end $$`);
  } finally {
    await boss.stop({ graceful: false, wait: true });
  }
}

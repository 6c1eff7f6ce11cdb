import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { Failure } from '@inkwell-twin/core';

export type Queryable = Pick<pg.Pool, 'query'>;

/** The pool of connections, and transactions on it. */
export class Database {
  readonly pool: pg.Pool;

  constructor(url: string) {
    this.pool = new pg.Pool({ connectionString: url, max: 8 });
    // A connection lost while idle is replaced by the pool; without a listener it would end the process.
    this.pool.on('error', () => undefined);
  }

  async rows<T extends pg.QueryResultRow>(sql: string, values: unknown[] = []): Promise<T[]> {
    return (await this.pool.query<T>(sql, values)).rows;
  }

  async transaction<T>(run: (client: Queryable) => Promise<T>): Promise<T> {
    const client = await this.pool.connect();
    try {
      await client.query('begin');
      const result = await run(client);
      await client.query('commit');
      return result;
    } catch (error) {
      await client.query('rollback').catch(() => undefined);
      throw error;
    } finally {
      client.release();
    }
  }

  close(): Promise<void> {
    return this.pool.end();
  }
}

/** The folder of migrations, from the bundle in dist/ or from the sources. */
function migrationFolder(): string {
  const here = fileURLToPath(new URL('.', import.meta.url));
  const found = [join(here, '../packages/server/sql'), join(here, '../../sql')].find((folder) => existsSync(folder));
  if (!found) throw new Failure('setup', 'The SQL migrations are not where they should be: packages/server/sql.');
  return found;
}

/** Runs the migrations that have not run yet, each in a transaction of its own, in order of their numbers. */
export async function migrate(database: Database): Promise<void> {
  await database.pool.query(
    'create table if not exists migration (name text primary key, at timestamptz not null default now())',
  );
  const done = new Set((await database.rows<{ name: string }>('select name from migration')).map(({ name }) => name));
  const folder = migrationFolder();
  for (const name of readdirSync(folder)
    .filter((file) => file.endsWith('.sql'))
    .sort()) {
    if (done.has(name)) continue;
    await database.transaction(async (client) => {
      await client.query(readFileSync(join(folder, name), 'utf8'));
      await client.query('insert into migration (name) values ($1)', [name]);
    });
  }
}

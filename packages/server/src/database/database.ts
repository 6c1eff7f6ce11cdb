import pg from 'pg';
import { databaseFailure } from './failures';

export type Queryable = Pick<pg.ClientBase, 'query'>;

/** How long things may take, ms: nothing waits for good, whatever the other side does. */
const LIMITS = {
  /** For a free connection, or a new one. */
  connectionTimeoutMillis: 10_000,
  statement_timeout: 30_000,
  lock_timeout: 10_000,
  idle_in_transaction_session_timeout: 30_000,
  keepAlive: true,
};

/**
 * The pool of connections, and transactions on it. Whatever runs inside a transaction is handed its client: taking a second
 * connection while holding one is how a pool runs dry for good.
 */
export class Database {
  private readonly pool: pg.Pool;

  /**
   * @param connections at most so many at once
   * @param limits other limits of time than the usual ones, ms; 0 for none
   */
  constructor(
    readonly url: string,
    connections = 8,
    limits: Partial<typeof LIMITS> = {},
  ) {
    this.pool = new pg.Pool({ connectionString: url, max: connections, ...LIMITS, ...limits });
    // A connection lost while idle is replaced by the pool; without a listener it would end the process.
    this.pool.on('error', () => undefined);
    // The pool listens only while a connection is idle; one lost in someone's hands fails their next query, and nothing else.
    this.pool.on('connect', (client) => client.on('error', () => undefined));
  }

  /** For a single statement. */
  readonly query: Queryable['query'] = ((...input: Parameters<pg.Pool['query']>) =>
    (this.pool.query(...input) as unknown as Promise<unknown>).catch((error: unknown) => {
      throw databaseFailure(error);
    })) as Queryable['query'];

  async rows<T extends pg.QueryResultRow>(sql: string, values: unknown[] = []): Promise<T[]> {
    return (await this.query<T>(sql, values)).rows;
  }

  /** @throws Failure `unavailable` when the database is away, full, read-only or too busy; nothing is half done then */
  async transaction<T>(run: (client: Queryable) => Promise<T>): Promise<T> {
    let client: pg.PoolClient | undefined;
    let broken: Error | undefined;
    try {
      client = await this.pool.connect();
      await client.query('begin');
      const result = await run(client);
      await client.query('commit');
      return result;
    } catch (error) {
      await client?.query('rollback').catch((lost: Error) => (broken = lost));
      throw databaseFailure(error);
    } finally {
      // A connection on which not even a rollback went through is thrown away.
      client?.release(broken);
    }
  }

  close(): Promise<void> {
    return this.pool.end();
  }
}

/** One at a time, across all processes, until the transaction ends. */
export const lockInTransaction = (client: Queryable, about: string): Promise<unknown> =>
  client.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [about]);

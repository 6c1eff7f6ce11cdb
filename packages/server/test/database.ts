import { randomBytes } from 'node:crypto';
import pg from 'pg';

/** Milliseconds that the making of a database may take. */
const LIMIT = 60_000;

/**
 * An empty database with nothing in it, owned by the role that migrates. None is ever dropped: that waits for every process of
 * the cluster, and the cluster goes as a whole.
 * @param name for who looks into the cluster; what follows it makes the database's name its own
 * @param like address of a database that it is a copy of; nobody may be connected to that one
 * @returns the addresses for that role and for the application
 */
export async function freshDatabase(name: string, like?: string): Promise<{ owner: string; app: string }> {
  const { INKWELL_TEST_DATABASE: admin, INKWELL_TEST_OWNER: owner, INKWELL_TEST_APP: app } = process.env;
  if (!admin || !owner || !app) throw new Error('INKWELL_TEST_DATABASE is not set: run the tests with npm test');
  const client = new pg.Client({ connectionString: admin, connectionTimeoutMillis: LIMIT, statement_timeout: LIMIT });
  await client.connect();
  const own = `${name.slice(0, 40)}_${randomBytes(4).toString('hex')}`;
  await client.query(`create database ${own} owner inkwell_owner${like ? ` template ${like.split('/').pop()}` : ''}`);
  await client.end();
  const of = (url: string) => url.replace(/\/[^/]*$/, `/${own}`);
  return { owner: of(owner), app: of(app) };
}

import { randomBytes } from 'node:crypto';
import pg from 'pg';

/** The database that is migrated once for all tests, and that nobody works on. */
const MIGRATED = 'inkwell';

/** Nothing is in it, not even a table: what a first start finds. */
export const EMPTY = 'template0';

/**
 * A database of its own, owned by the role that migrates: migrated unless said. None is ever dropped: that waits for every
 * process of the cluster, and the cluster goes as a whole.
 * @param name for who looks into the cluster; what follows it makes the database's name its own
 * @param like name or address of a database that it is a copy of; nobody may be connected to that one
 * @returns the addresses for that role and for the application
 */
export async function freshDatabase(name: string, like = MIGRATED): Promise<{ owner: string; app: string }> {
  const { INKWELL_TEST_DATABASE: admin, INKWELL_TEST_OWNER: owner, INKWELL_TEST_APP: app } = process.env;
  if (!admin || !owner || !app) throw new Error('INKWELL_TEST_DATABASE is not set: run the tests with npm test');
  // From a database that nobody copies: whoever is connected to the one that is copied keeps others from copying it.
  const client = new pg.Client({ connectionString: admin.replace(/\/[^/]*$/, '/postgres') });
  await client.connect();
  const own = `${name.slice(0, 40)}_${randomBytes(4).toString('hex')}`;
  await client.query(`create database ${own} owner inkwell_owner template ${like.split('/').pop()}`);
  await client.end();
  const of = (url: string) => url.replace(/\/[^/]*$/, `/${own}`);
  return { owner: of(owner), app: of(app) };
}

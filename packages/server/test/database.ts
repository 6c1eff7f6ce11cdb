import pg from 'pg';

/** An empty database with nothing in it, owned by the role that migrates. @returns the addresses for that role and for the application */
export async function freshDatabase(name: string): Promise<{ owner: string; app: string }> {
  const { INKWELL_TEST_DATABASE: admin, INKWELL_TEST_OWNER: owner, INKWELL_TEST_APP: app } = process.env;
  if (!admin || !owner || !app) throw new Error('INKWELL_TEST_DATABASE is not set: run the tests with npm test');
  const client = new pg.Client(admin);
  await client.connect();
  await client.query(`drop database if exists ${name} with (force)`);
  await client.query(`create database ${name} owner inkwell_owner`);
  await client.end();
  const of = (url: string) => url.replace(/\/[^/]*$/, `/${name}`);
  return { owner: of(owner), app: of(app) };
}

import { spawn, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { atDepth } from '../../core/test/depth';
import { Database, migrate } from '../src';
import { EMPTY, freshDatabase } from './database';

const KILLS = atDepth(6, 60);
const PROGRAM = join(__dirname, '../../../dist/node/migrate.mjs');

/** Data of long ago, with all that has to be migrated since. */
let old: string;
beforeAll(async () => {
  old = (await freshDatabase('migrated_from', EMPTY)).owner;
  const input = gunzipSync(readFileSync(join(__dirname, 'data/before-006/database.sql.gz')));
  const { stderr } = spawnSync('psql', ['-q', '-v', 'ON_ERROR_STOP=1', old], { input, encoding: 'utf8' });
  expect(stderr).toBe('');
});

/** All tables, columns, indexes and rights, and how many rows there are of each table. */
async function state(owner: string): Promise<{ schema: string; rows: Record<string, number> }> {
  const { stdout, stderr } = spawnSync('pg_dump', ['--schema-only', '--no-owner', owner], {
    encoding: 'utf8',
    maxBuffer: 1 << 26,
  });
  expect(stderr).toBe('');
  const database = new Database(owner, 1);
  const rows: Record<string, number> = {};
  for (const { name } of await database.rows<{ name: string }>(
    "select format('%I.%I', schemaname, tablename) as name from pg_tables where schemaname in ('public', 'pgboss') order by 1",
  ))
    rows[name] = (await database.rows<{ count: number }>(`select count(*)::int from ${name}`))[0]!.count;
  await database.close();
  // Each dump draws a key of its own for these two lines.
  return { schema: stdout.replace(/^\\(un)?restrict .*$/gm, ''), rows };
}

/** Runs the program that `npm start` migrates with; ms that it took, or killed after so many. */
async function migrated(owner: string, killAfter?: number): Promise<number> {
  const start = performance.now();
  const program = spawn(process.execPath, [PROGRAM], { stdio: 'ignore', env: { ...process.env, INKWELL_DATABASE: owner } });
  const gone = new Promise((done) => program.once('exit', done));
  if (killAfter !== undefined) setTimeout(() => program.kill('SIGKILL'), killAfter);
  await gone;
  return performance.now() - start;
}

it(`a migration that is killed at ${KILLS} moments is finished by the next one, as if nothing had been`, async () => {
  const whole = (await freshDatabase('migrated_whole', old)).owner;
  const took = await migrated(whole);
  const wanted = await state(whole);
  expect(Object.keys(wanted.rows).length).toBeGreaterThan(10);
  let cut = 0;
  for (let i = 0; i < KILLS; i++) {
    const { owner } = await freshDatabase(`migrated_${i}`, old);
    await migrated(owner, (took * (i + 0.5)) / KILLS);
    const database = new Database(owner, 1);
    const [row] = await database.rows<{ done: number }>('select count(*)::int as done from migration');
    if (row!.done < wanted.rows['public.migration']!) cut++;
    await database.close();
    await migrate(owner);
    expect(await state(owner)).toEqual(wanted);
  }
  expect(cut).toBeGreaterThan(0);
  console.log(`killed ${KILLS} times, ${cut} of them with migrations undone; a whole one takes ${took.toFixed(0)} ms`);
});

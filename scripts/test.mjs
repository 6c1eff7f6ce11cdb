// Runs all tests: unit, integration against a real PostgreSQL, journeys in Debian's Chromium. Last line: N passed, N failed, N skipped.
// Use: npm test [-- --only unit|integration|e2e] [-- --long] [-- --match WORDS]
import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { SetupError, ensureDebian } from './lib/debian.mjs';
import { ensureNodePackages } from './lib/dependencies.mjs';
import { startPostgres } from './lib/postgres.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const say = (line) => console.log(`· ${line}`);
const { values } = parseArgs({
  options: { only: { type: 'string' }, long: { type: 'boolean', default: false }, match: { type: 'string' } },
});
const { only, long, match } = values;
/** Minutes without a word after which a run hangs; the only clock of the tests. */
const HANG = long ? 90 : 20;
/** Test files by what they need. */
const FILES = {
  unit: 'dist/tests/(core|render|api|demo|cli|web)/',
  integration: 'dist/tests/server/',
};
const started = Date.now();
const results = [];
const lost = (name, message) => results.push({ file: name, name: 'the run', status: 'failed', ms: 0, message });

/** What runs at the moment: it ends with us. */
let running;

/** Runs a command; what it says is passed on. @returns its exit code, or null where it hung and was ended */
async function run(args, env = {}) {
  const child = spawn(process.execPath, args, {
    cwd: root,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, ...env },
  });
  running = child;
  let last = Date.now();
  for (const stream of ['stdout', 'stderr'])
    child[stream].on('data', (chunk) => {
      last = Date.now();
      process[stream].write(chunk);
    });
  const watch = setInterval(() => Date.now() - last > HANG * 60_000 && child.kill('SIGKILL'), 1000);
  const code = await new Promise((done) => child.once('close', done));
  clearInterval(watch);
  return code;
}

async function jest(which, env, folder) {
  const report = join(folder, 'jest.json');
  await run(
    [
      'node_modules/jest/bin/jest.js',
      '--maxWorkers=3',
      ...(match ? ['--testNamePattern', match] : []),
      '--testPathPatterns',
      which,
    ],
    {
      ...env,
      INKWELL_REPORT: report,
      INKWELL_MATCH: match ?? '',
    },
  );
  if (existsSync(report)) results.push(...JSON.parse(readFileSync(report, 'utf8')));
  else {
    const under = existsSync(`${report}.under`) ? readFileSync(`${report}.under`, 'utf8') : '';
    lost('jest', `It ended without a result; under way: ${under || 'nothing'}.`);
  }
}

/** The tests in a suite of Playwright's report, and in those within it. */
const testsIn = (suite, above = []) => [
  ...(suite.suites ?? []).flatMap((one) => testsIn(one, one.file === one.title ? above : [...above, one.title])),
  ...(suite.specs ?? []).flatMap(({ title, file, tests }) =>
    tests.map(({ status, results: tries }) => ({
      file: `e2e/${file}`,
      name: [...above, title].join(' › '),
      // What was broken off is no success and was not left out.
      status:
        status === 'unexpected' || tries.some((one) => one.status === 'interrupted')
          ? 'failed'
          : status === 'skipped'
            ? 'skipped'
            : 'passed',
      ms: tries.reduce((sum, { duration }) => sum + duration, 0),
      message: tries.flatMap(({ errors }) => errors.map((error) => error.stack ?? error.message)).join('\n'),
    })),
  ),
];

async function journeys(env, folder) {
  const report = join(folder, 'journeys.json');
  await run(
    [
      'node_modules/@playwright/test/cli.js',
      'test',
      '--config',
      'e2e/playwright.config.ts',
      ...(long ? [] : ['--grep-invert', '@long']),
      ...(match ? ['--grep', match] : []),
    ],
    { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: report, INKWELL_RUN: folder },
  );
  if (!existsSync(report)) return lost('journeys', 'They ended without a result.');
  const { suites, errors } = JSON.parse(readFileSync(report, 'utf8'));
  results.push(...suites.flatMap((suite) => testsIn(suite)));
  for (const error of errors) lost('journeys', error.stack ?? error.message);
}

/** What judges the copies is installed by root; whoever is not root is told, and the tests that need it are counted as left out. */
async function ensureJudges() {
  try {
    await ensureDebian('judges', say);
  } catch (error) {
    if (process.env.CI) throw error;
    say(`${error.message}. Without them, some tests are left out.`);
  }
}

async function main() {
  if (only && only !== 'e2e' && !FILES[only]) throw new SetupError(`There is no --only ${only}. Known: unit, integration, e2e.`);
  await ensureJudges();
  await ensureNodePackages(root, say);
  say('building what has changed');
  const parts =
    only === 'unit' ? 'node,tests' : only === 'integration' ? 'node,tests' : only === 'e2e' ? 'node,web' : 'node,tests,web';
  if ((await run(['scripts/build.mjs', '--quiet', '--only', parts])) !== 0)
    throw new SetupError('The build failed; the lines above say where.');
  mkdirSync(join(root, '.tmp'), { recursive: true });
  const folder = mkdtempSync(join(root, '.tmp/run-'));
  const seed = process.env.INKWELL_SEED ?? (long ? new Date().toISOString().slice(0, 10).replaceAll('-', '') : undefined);
  if (seed) say(`seed ${seed}: INKWELL_SEED=${seed} draws the same cases again`);
  const depth = { ...(seed ? { INKWELL_SEED: seed } : {}), ...(long ? { INKWELL_DEPTH: 'long' } : {}), INKWELL_SHARED: folder };
  try {
    if (only === 'unit') return await jest(FILES.unit, depth, folder);
    await ensureDebian('needed', say);
    if (only !== 'integration') await ensureDebian('browser', say);
    await withPostgres(folder, async (database) => {
      const env = { ...depth, ...database };
      if (only !== 'e2e') await jest(only ? FILES[only] : `${FILES.unit}|${FILES.integration}`, env, folder);
      if (only !== 'integration') await journeys(env, folder);
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
    if (long && !only) keepLong(seed);
  }
}

/** Work beside a PostgreSQL that has one migrated database, of which each test gets a copy. */
async function withPostgres(folder, work) {
  say('starting a PostgreSQL for the tests');
  const place = mkdtempSync(join(tmpdir(), 'inkwell-test-'));
  const database = await startPostgres(join(place, 'postgres'), { fast: true });
  const stop = () => {
    database.stop();
    for (const path of [place, database.folder]) rmSync(path, { recursive: true, force: true });
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.once(signal, () => {
      running?.kill('SIGTERM');
      stop();
      rmSync(folder, { recursive: true, force: true });
      process.exit(1);
    });
  try {
    if ((await run(['dist/node/migrate.mjs'], { INKWELL_DATABASE: database.owner })) !== 0)
      throw new SetupError('The database of the tests could not be migrated; the lines above say why.');
    await work({
      INKWELL_TEST_DATABASE: database.admin,
      INKWELL_TEST_OWNER: database.owner,
      INKWELL_TEST_APP: database.url,
    });
  } finally {
    stop();
  }
}

const count = (status) => results.filter((one) => one.status === status).length;
const seconds = (ms) => `${(ms / 1000).toFixed(1)} s`;
const computedBefore = computedByNow();
const minutes = () =>
  `${((Date.now() - started) / 60_000).toFixed(1)} minutes` +
  (computedBefore === undefined ? '' : `, in which this machine computed for ${(computedByNow() - computedBefore).toFixed(1)}`);

/** What the machine has computed since it started, minutes (proc(5), /proc/stat in hundredths of a second); undefined where the system does not say. */
function computedByNow() {
  if (!existsSync('/proc/stat')) return undefined;
  const [user, nice, system] = readFileSync('/proc/stat', 'utf8').split('\n')[0].split(/\s+/).slice(1).map(Number);
  return (user + nice + system) / 6000;
}

/** What came of the long tests, beside the benchmarks. */
function keepLong(seed) {
  const commit = execFileSync('git', ['rev-parse', '--short', 'HEAD'], { cwd: root, encoding: 'utf8' }).trim();
  const changed = execFileSync('git', ['status', '--porcelain'], { cwd: root, encoding: 'utf8' }).trim() !== '';
  const outcome = {
    date: new Date().toISOString().slice(0, 10),
    commit: changed ? `${commit}, changed` : commit,
    seed: Number(seed),
    minutes: Number(((Date.now() - started) / 60_000).toFixed(1)),
    passed: count('passed'),
    failed: count('failed'),
    skipped: count('skipped'),
    'what failed': results.filter(({ status }) => status === 'failed').map(({ file, name }) => `${file}: ${name}`),
  };
  writeFileSync(join(root, 'benchmarks/long.json'), `${JSON.stringify(outcome, null, 2)}\n`);
}

/** What failed, first; the slowest, last. */
function sumUp() {
  for (const { file, name, message } of results.filter(({ status }) => status === 'failed'))
    console.log(`\n✗ ${file}: ${name}\n${message}`);
  const left = results.filter(({ status }) => status === 'skipped');
  if (left.length) {
    console.log(`\nLeft out (${left.length}):`);
    for (const file of new Set(left.map((one) => one.file)))
      console.log(`  ${file}: ${left.filter((one) => one.file === file).length}`);
  }
  console.log('\nThe slowest:');
  for (const { file, name, ms } of [...results].sort((a, b) => b.ms - a.ms).slice(0, 20))
    console.log(`  ${seconds(ms).padStart(8)}  ${file}: ${name}`);
  console.log(`\n${minutes()}`);
  console.log(`${count('passed')} passed, ${count('failed')} failed, ${count('skipped')} skipped`);
}

main()
  .catch((error) => lost('set-up', error instanceof SetupError ? error.message : error.stack))
  .finally(() => {
    sumUp();
    process.exitCode = count('failed') || !count('passed') ? 1 : 0;
  });

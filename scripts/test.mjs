// Runs all tests: unit, integration against a real PostgreSQL, end-to-end in Debian's Chromium. Last line: N passed, N failed.
// Use: npm test [-- --only unit|integration|e2e]
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ensureNodePackages } from './lib/dependencies.mjs';
import { ensureDebianPackage, findPostgres, SetupError, startPostgres } from './lib/postgres.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const say = (line) => console.log(`· ${line}`);
const only = process.argv.includes('--only') ? process.argv[process.argv.indexOf('--only') + 1] : undefined;
const total = { passed: 0, failed: 0 };
const reports = join(root, '.tmp');

const node = (args, env = {}) =>
  spawnSync(process.execPath, args, {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env },
  });

function jest(project, env) {
  const report = join(reports, `${project}.json`);
  rmSync(report, { force: true });
  node(
    [
      'node_modules/jest/bin/jest.js',
      '--selectProjects',
      project,
      '--testTimeout=120000',
      // A worker keeps some of each file that it ran, and slows down by it: a new one takes over in time.
      '--maxWorkers=2',
      '--workerIdleMemoryLimit=700MB',
      '--json',
      `--outputFile=${report}`,
      '--silent=false',
    ],
    env,
  );
  if (!existsSync(report)) return void total.failed++;
  const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(readFileSync(report, 'utf8'));
  total.passed += numPassedTests;
  total.failed += numFailedTests + numRuntimeErrorTestSuites;
}

/** @param tests  arguments that choose some of them */
function playwright(env, name, tests) {
  const report = join(reports, `${name}.json`);
  rmSync(report, { force: true });
  node(['node_modules/@playwright/test/cli.js', 'test', '--config', 'e2e/playwright.config.ts', ...tests], {
    ...env,
    PLAYWRIGHT_JSON_OUTPUT_NAME: report,
  });
  if (!existsSync(report)) return void total.failed++;
  const { stats, errors } = JSON.parse(readFileSync(report, 'utf8'));
  total.passed += stats.expected + stats.flaky;
  total.failed += stats.unexpected + (stats.expected + stats.unexpected === 0 ? Math.max(1, errors.length) : 0);
}

async function main() {
  mkdirSync(reports, { recursive: true });
  ensureDebianPackage('postgresql', findPostgres, say);
  ensureDebianPackage('chromium', () => existsSync('/usr/bin/chromium'), say);
  ensureNodePackages(root, say);
  say('building what has changed');
  if (node(['scripts/build.mjs', '--quiet']).status !== 0) throw new SetupError('The build failed; the lines above say where.');
  if (!only || only === 'unit') jest('unit');
  if (only === 'unit') return;
  say('starting a PostgreSQL for the tests');
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-test-'));
  const database = await startPostgres(join(folder, 'postgres'), { fast: true });
  try {
    const env = {
      INKWELL_TEST_DATABASE: database.admin,
      INKWELL_TEST_OWNER: database.owner,
      INKWELL_TEST_APP: database.url,
    };
    if (!only || only === 'integration') jest('integration', env);
    if (!only || only === 'e2e') {
      // How soon it starts is asked of a machine that does nothing else.
      playwright(env, 'start', ['--workers=1', 'start.spec']);
      playwright(env, 'e2e', ['--grep-invert', 'start\\.spec']);
    }
  } finally {
    database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

main()
  .catch((error) => {
    total.failed++;
    console.error(error instanceof SetupError ? error.message : error);
  })
  .finally(() => {
    console.log(`${total.passed} passed, ${total.failed} failed`);
    process.exitCode = total.failed || !total.passed ? 1 : 0;
  });

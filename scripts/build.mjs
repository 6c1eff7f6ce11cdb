// Builds what runs under Node.js (dist/node), the tests (dist/tests), the benchmarks and the web application.
// Use: node scripts/build.mjs [--only NAME[,NAME]] [--force] [--quiet]. What has not changed since the last build is not built again.
import { build } from 'esbuild';
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gather } from './lib/gather.mjs';
import { forNode } from './lib/inside.mjs';
import { filesIn, isFresh, keepStamp, turn } from './lib/stamps.mjs';
import { buildTests, specsIn } from './lib/tests.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
gather(root);
const argument = (name) => (process.argv.includes(name) ? process.argv[process.argv.indexOf(name) + 1] : undefined);
const only = argument('--only')?.split(',');
const force = process.argv.includes('--force');
const quiet = process.argv.includes('--quiet');

/** Programs that share most of what they are made of: one build, in which that stands once. */
const bundle = (outdir, entries) => async () => {
  const { metafile } = await build({
    ...forNode,
    absWorkingDir: root,
    entryPoints: entries,
    outdir,
    outExtension: { '.js': '.mjs' },
    splitting: true,
    sourcemap: 'linked',
    // Every process reads the map; the sources are beside it.
    sourcesContent: false,
    metafile: true,
    logLevel: 'warning',
  });
  return Object.keys(metafile.inputs);
};

const web = () =>
  new Promise((done, fail) => {
    const ng = spawn(process.execPath, [join(root, 'node_modules/@angular/cli/bin/ng.js'), 'build'], {
      cwd: join(root, 'packages/web'),
      stdio: ['ignore', quiet ? 'ignore' : 'inherit', 'inherit'],
      env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
    });
    ng.once('exit', (code) => (code === 0 ? done(webFiles()) : fail(new Error(`ng build ended with ${code}`))));
  });
const webFiles = () => filesIn(root, ['packages/core/src', 'packages/api/src', 'packages/web']);

/**
 * What can be built: a file that comes of it, how it is made (the answer is what it was made from), and whether something
 * belongs to it that was not there before.
 */
const PARTS = {
  node: {
    output: 'dist/node/server.mjs',
    make: bundle('dist/node', {
      server: 'packages/server/src/main.ts',
      migrate: 'packages/server/src/database/main.ts',
      compute: 'packages/server/src/compute/worker.ts',
      worker: 'packages/server/src/worker.ts',
      twin: 'packages/cli/src/main.ts',
      'check-thread': 'packages/cli/src/check-thread.ts',
      demo: 'packages/demo/src/main.ts',
      bench: 'packages/standins/src/main.ts',
    }),
  },
  benchmarks: {
    output: 'dist/benchmarks/benchmarks.mjs',
    make: bundle('dist/benchmarks', { benchmarks: 'benchmarks/main.ts', drawings: 'benchmarks/drawings.ts' }),
  },
  tests: { output: 'dist/tests/made', make: () => buildTests(root), all: () => specsIn(root) },
  web: { output: 'dist/web/browser/index.html', make: web, all: webFiles },
};

/** Two builds of one part at once take turns; the second finds it done. */
const part = (name) =>
  turn(root, name, async () => {
    const { output, make, all } = PARTS[name];
    if (!force && existsSync(join(root, output)) && isFresh(root, name, all?.())) return;
    keepStamp(root, name, await make());
  });

const unknown = only?.filter((name) => !PARTS[name]);
if (unknown?.length) {
  console.error(`There is no ${unknown.join(', ')} to build. Known: ${Object.keys(PARTS).join(', ')}`);
  process.exitCode = 2;
} else {
  // What is measured is built when it is measured.
  const wanted = only ?? Object.keys(PARTS).filter((name) => name !== 'benchmarks');
  const ended = await Promise.allSettled(wanted.map(part));
  for (const { reason } of ended) if (reason) console.error(reason.message ?? reason);
  if (ended.some(({ reason }) => reason)) process.exitCode = 1;
}

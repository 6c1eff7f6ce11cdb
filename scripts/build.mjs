// Builds what runs under Node.js (one bundle each in dist/) and the web application.
// Use: node scripts/build.mjs [--only NAME[,NAME]] [--force]. What has not changed since the last build is not built again.
import { build } from 'esbuild';
import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { forNode } from './lib/inside.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const bundles = {
  server: 'packages/server/src/main.ts',
  compute: 'packages/server/src/compute/worker.ts',
  worker: 'packages/server/src/worker.ts',
  twin: 'packages/cli/src/main.ts',
  demo: 'packages/demo/src/main.ts',
  benchmarks: 'benchmarks/main.ts',
  drawings: 'benchmarks/drawings.ts',
};
const argument = (name) => (process.argv.includes(name) ? process.argv[process.argv.indexOf(name) + 1] : undefined);
const only = argument('--only')?.split(',');
const force = process.argv.includes('--force');

function files(folder) {
  if (!existsSync(folder)) return [];
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return /^(node_modules|dist|test|\.angular)$/.test(entry.name) ? [] : files(path);
    return [path];
  });
}

function stampOf(folders) {
  const hash = createHash('sha256');
  for (const path of [...folders.flatMap((folder) => files(join(root, folder))), join(root, 'package-lock.json')]) {
    if (existsSync(path)) hash.update(`${path}:${statSync(path).size}:`).update(readFileSync(path));
  }
  return hash.digest('hex');
}

function unchanged(name, stamp, output) {
  const file = join(root, 'dist', `.${name}.stamp`);
  return !force && existsSync(output) && existsSync(file) && readFileSync(file, 'utf8') === stamp;
}

const keepStamp = (name, stamp) => writeFileSync(join(root, 'dist', `.${name}.stamp`), stamp);

mkdirSync(join(root, 'dist'), { recursive: true });
const nodeStamp = stampOf([
  'packages/core',
  'packages/api',
  'packages/render',
  'packages/demo',
  'packages/cli',
  'packages/server',
  'benchmarks',
  'scripts/lib',
]);
for (const [name, entry] of Object.entries(bundles)) {
  if ((only && !only.includes(name)) || !existsSync(join(root, entry))) continue;
  const outfile = join(root, 'dist', `${name}.mjs`);
  if (unchanged(name, nodeStamp, outfile)) continue;
  await build({
    ...forNode,
    entryPoints: [join(root, entry)],
    outfile,
    sourcemap: 'linked',
    // Every process reads the map; the sources are beside it.
    sourcesContent: false,
    logLevel: 'warning',
  });
  keepStamp(name, nodeStamp);
}

if (!only || only.includes('web')) {
  const webStamp = stampOf(['packages/core', 'packages/api', 'packages/web']);
  if (!unchanged('web', webStamp, join(root, 'dist/web/browser/index.html'))) {
    execFileSync(process.execPath, [join(root, 'node_modules/@angular/cli/bin/ng.js'), 'build'], {
      cwd: join(root, 'packages/web'),
      stdio: ['ignore', process.argv.includes('--quiet') ? 'ignore' : 'inherit', 'inherit'],
      env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
    });
    keepStamp('web', webStamp);
  }
}

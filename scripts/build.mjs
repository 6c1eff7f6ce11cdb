// Builds what runs under Node.js (one bundle each in dist/) and the web application.
// Use: node scripts/build.mjs [--only NAME[,NAME]] [--force]. What has not changed since the last build is not built again.
import { build } from 'esbuild';
import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

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
// Packages of hundreds of small files are bundled with what they ask for: a process is there in a third of the time.
// What reads files of its own or has native parts stays in node_modules, as does all that is small.
const MANY_FILES = ['mathjs', 'echarts', 'culori', 'css-tree', 'zod', 'parse5', 'css-select', 'diff'];
const fromPackage = /node_modules[\\/]/;

function whatIsInside({ path, kind, importer }) {
  if (kind === 'entry-point' || path.startsWith('@inkwell-twin/')) return undefined;
  const many = MANY_FILES.some((name) => path === name || path.startsWith(`${name}/`));
  return many || (fromPackage.test(importer) && !path.startsWith('node:')) ? undefined : { path, external: true };
}

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
]);
for (const [name, entry] of Object.entries(bundles)) {
  if ((only && !only.includes(name)) || !existsSync(join(root, entry))) continue;
  const outfile = join(root, 'dist', `${name}.mjs`);
  if (unchanged(name, nodeStamp, outfile)) continue;
  await build({
    entryPoints: [join(root, entry)],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: 'linked',
    logLevel: 'warning',
    // One file instead of a hundred: its own entry reads its data with require().
    alias: { 'css-tree': 'css-tree/dist/csstree.esm' },
    plugins: [{ name: 'what-is-inside', setup: (b) => b.onResolve({ filter: /^[^./]/ }, whatIsInside) }],
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

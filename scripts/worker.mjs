// One more worker process for the jobs of a workshop that runs already, here or on another machine.
// Use: npm run worker [-- --data DIR] or, elsewhere: npm run worker -- --database URL --shelf DIR
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { ensureNodePackages } from './lib/dependencies.mjs';
import { SetupError } from './lib/debian.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');

function settings() {
  const { values } = parseArgs({
    options: { data: { type: 'string' }, database: { type: 'string' }, shelf: { type: 'string' } },
  });
  if (values.database && values.shelf) return { INKWELL_DATABASE: values.database, INKWELL_SHELF: resolve(values.shelf) };
  const file = join(resolve(values.data ?? join(root, '.data')), 'worker.env.json');
  if (!existsSync(file))
    throw new SetupError(`${file} is not there. Start the workshop first (npm start), or say --database URL and --shelf DIR.`);
  return JSON.parse(readFileSync(file, 'utf8'));
}

try {
  const env = settings();
  await ensureNodePackages(root, (line) => console.log(`· ${line}`), 'product');
  const build = spawnSync(process.execPath, [join(root, 'scripts/build.mjs'), '--quiet', '--only', 'node'], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (build.status !== 0) throw new SetupError('The build failed; the lines above say where.');
  console.log('· one more worker is at work (Ctrl-C stops it)');
  const worker = spawn(process.execPath, ['--enable-source-maps', join(root, 'dist/node/worker.mjs')], {
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: { ...process.env, ...env },
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => worker.kill('SIGTERM'));
  worker.once('exit', (code) => process.exit(code ?? 1));
} catch (error) {
  console.error(error instanceof SetupError ? `The worker can't start. ${error.message}` : error);
  process.exitCode = 1;
}

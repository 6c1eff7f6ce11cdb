// Sets up whatever is missing, starts PostgreSQL on loopback and serves the application. Ctrl-C stops all of it.
// Use: npm start [-- --empty] [--port N] [--data DIR]
import { existsSync, mkdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { ensureNodePackages } from './lib/dependencies.mjs';
import { SetupError, ensureDebian } from './lib/debian.mjs';
import { portIsFree, startPostgres } from './lib/postgres.mjs';
import { Supervisor } from './lib/supervisor.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const say = (line) => console.log(`· ${line}`);

function options() {
  try {
    const { values } = parseArgs({
      options: {
        empty: { type: 'boolean', default: false },
        port: { type: 'string', default: '4310' },
        data: { type: 'string' },
      },
    });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 1 || port > 65535) throw new Error(`--port ${values.port} is not a port (1 to 65535)`);
    return { ...values, port, data: resolve(values.data ?? join(root, '.data')) };
  } catch (error) {
    throw new SetupError(`${error.message}. Known: --empty, --port N, --data DIR`);
  }
}

async function build(supervisor, parts) {
  const args = [join(root, 'scripts/build.mjs'), '--quiet', '--only', parts];
  const code = await supervisor.runOnce('the build', {
    command: process.execPath,
    args,
    options: { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] },
  });
  if (code !== 0) throw new SetupError('The build failed; the lines above say where.');
}

async function main() {
  const { empty, port, data } = options();
  if (!(await portIsFree(port)))
    throw new SetupError(`Port ${port} is in use. Stop what runs there, or choose another: npm start -- --port ${port + 1}`);
  if (existsSync(data) && !statSync(data).isDirectory())
    throw new SetupError(
      `${data} is a file, and the data folder should stand there. Move it, or choose another: npm start -- --data DIR`,
    );
  const supervisor = new Supervisor(say);
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => supervisor.stop(0));
  // A signal to npm alone ends npm and not us: then nobody would be left to end what we started.
  const parent = process.ppid;
  if (process.env.npm_lifecycle_event) setInterval(() => process.ppid !== parent && supervisor.stop(0), 500).unref();
  mkdirSync(join(data, 'shelf'), { recursive: true });
  // The longest of all is the build of the web application: what can be done beside it is.
  const packages = ensureNodePackages(root, say, 'product').then(() => {
    say('building what has changed');
    return build(supervisor, 'node,web');
  });
  const postgres = ensureDebian('needed', say).then(() => {
    say('starting PostgreSQL on loopback');
    return startPostgres(join(data, 'postgres'));
  });
  supervisor.watchDatabase(postgres);
  const ended = await Promise.allSettled([packages, postgres]);
  const failed = ended.find(({ status }) => status === 'rejected');
  if (failed) {
    console.error(failed.reason instanceof SetupError ? `Inkwell Twin can't start. ${failed.reason.message}` : failed.reason);
    return supervisor.stop(1, { silent: true });
  }
  const database = await postgres;
  const node = (bundle, env) => ({
    command: process.execPath,
    args: ['--enable-source-maps', join(root, `dist/node/${bundle}.mjs`)],
    // Over the channel a process learns when this one is gone, however it went.
    options: { stdio: ['ignore', 'inherit', 'inherit', 'ipc'], env: { ...process.env, ...env } },
  });
  if ((await supervisor.runOnce('the migration', node('migrate', { INKWELL_DATABASE: database.owner }))) !== 0) {
    console.error(
      "Inkwell Twin can't start. The database could not be brought up to date; the line above says why. Nothing was changed.",
    );
    return supervisor.stop(1, { silent: true });
  }
  const shared = { INKWELL_DATABASE: database.url, INKWELL_SHELF: join(data, 'shelf'), INKWELL_BENCH: join(data, 'bench') };
  supervisor.run(
    'the server',
    node('server', {
      ...shared,
      INKWELL_PORT: String(port),
      INKWELL_UPLOADS: join(data, 'uploads'),
      INKWELL_WEB: join(root, 'dist/web/browser'),
      INKWELL_DEMO: empty ? '' : 'yes',
    }),
    { orEnd: true },
  );
  supervisor.run('the worker', node('worker', shared));
  supervisor.run('the bench', node('bench', { INKWELL_BENCH: shared.INKWELL_BENCH }));
  // For one more worker, here or on another machine: npm run worker reads it.
  writeFileSync(join(data, 'worker.env.json'), JSON.stringify(shared), { mode: 0o600 });
}

main().catch((error) => {
  console.error(error instanceof SetupError ? `Inkwell Twin can't start. ${error.message}` : error);
  process.exitCode = 1;
});

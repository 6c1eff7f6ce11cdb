// A PostgreSQL cluster of our own on loopback, from Debian's packages. The server refuses to run as root, so it then runs
// under the `postgres` user, in a folder which that user owns.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

const isRoot = process.getuid?.() === 0;

export class SetupError extends Error {}

/** The folder of the newest installed server's programs, or undefined. */
export function findPostgres() {
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base) ? readdirSync(base).sort((a, b) => Number(b) - Number(a)) : [];
  const found = versions.map((version) => join(base, version, 'bin')).find((bin) => existsSync(join(bin, 'postgres')));
  if (found) return found;
  const which = spawnSync('sh', ['-c', 'command -v postgres'], { encoding: 'utf8' });
  return which.status === 0 ? resolve(which.stdout.trim(), '..') : undefined;
}

/** Installs a Debian package when root; otherwise says which command to run. */
export function ensureDebianPackage(name, present, say) {
  if (present()) return;
  if (!isRoot) throw new SetupError(`${name} is missing. Install it with:  sudo apt-get install ${name}`);
  say(`installing Debian's ${name}`);
  const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const run = (...args) => spawnSync('apt-get', args, { env: environment, encoding: 'utf8' });
  run('update');
  const done = run('install', '-y', '--no-install-recommends', name);
  if (done.error || done.status !== 0 || !present()) {
    const why = (done.stderr || done.error?.message || '').trim().split('\n').slice(-2).join(' ');
    throw new SetupError(`${name} could not be installed (${why}). Install it by hand:  apt-get install ${name}`);
  }
}

export const freePort = () =>
  new Promise((done, fail) => {
    const server = createServer().on('error', fail);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => done(port));
    });
  });

export const portIsFree = (port) =>
  new Promise((done) => {
    const server = createServer().on('error', () => done(false));
    server.listen(port, '127.0.0.1', () => server.close(() => done(true)));
  });

const asServerUser = (command, args) => (isRoot ? ['runuser', ['-u', 'postgres', '--', command, ...args]] : [command, args]);

function run(command, args) {
  const [program, list] = asServerUser(command, args);
  return spawnSync(program, list, { encoding: 'utf8', cwd: '/' });
}

/** A folder the server's user can reach: the wanted one, or one under /var/lib when a parent folder is closed to that user. */
function reachable(wanted) {
  mkdirSync(wanted, { recursive: true });
  if (!isRoot) return wanted;
  execFileSync('chown', ['postgres:postgres', wanted]);
  if (run('test', ['-w', wanted]).status === 0) return wanted;
  const other = join('/var/lib/inkwell-twin', createHash('sha256').update(wanted).digest('hex').slice(0, 12));
  mkdirSync(other, { recursive: true });
  execFileSync('chown', ['postgres:postgres', other]);
  return other;
}

/**
 * Makes the cluster if it is not there, and starts it.
 * @param folder where its data lives
 * @returns {Promise<{url: string, folder: string, stop: () => void}>}
 */
export async function startPostgres(folder, { fast = false } = {}) {
  const bin = findPostgres();
  if (!bin) throw new SetupError('PostgreSQL is missing. Install it with:  sudo apt-get install postgresql');
  const home = reachable(resolve(folder));
  const data = join(home, 'cluster');
  const log = join(home, 'postgres.log');
  if (!existsSync(join(data, 'PG_VERSION'))) {
    if (existsSync(data) && readdirSync(data).length)
      throw new SetupError(`${data} is not a PostgreSQL data folder (PG_VERSION is missing). Move it away and start again.`);
    const made = run(join(bin, 'initdb'), ['-D', data, '-U', 'inkwell', '--auth=trust', '-E', 'UTF8', '--locale=C.UTF-8']);
    if (made.status !== 0)
      throw new SetupError(`The database could not be made in ${data}: ${made.stderr.trim().split('\n').pop()}`);
  }
  const version = readFileSync(join(data, 'PG_VERSION'), 'utf8').trim();
  const port = await freePort();
  const sockets = join(tmpdir(), `inkwell-pg-${port}`);
  mkdirSync(sockets, { recursive: true });
  chmodSync(sockets, 0o777);
  const settings = ['-c', `port=${port}`, '-c', 'listen_addresses=127.0.0.1', '-c', `unix_socket_directories=${sockets}`];
  if (fast) settings.push('-c', 'fsync=off', '-c', 'synchronous_commit=off', '-c', 'full_page_writes=off');
  // A cluster left over from a killed start is stopped first: its postmaster.pid names it.
  if (existsSync(join(data, 'postmaster.pid'))) run(join(bin, 'pg_ctl'), ['stop', '-D', data, '-m', 'fast', '-w', '-t', '20']);
  const [program, args] = asServerUser(join(bin, 'postgres'), ['-D', data, ...settings]);
  const child = spawn(program, args, { cwd: '/', stdio: ['ignore', 'pipe', 'pipe'], detached: true });
  let said = '';
  const keep = (chunk) => {
    said = (said + chunk).slice(-20_000);
  };
  child.stdout.on('data', keep);
  child.stderr.on('data', keep);
  let ended = false;
  child.on('exit', () => {
    ended = true;
  });
  const client = ['-h', '127.0.0.1', '-p', String(port), '-U', 'inkwell', '-d', 'postgres'];
  for (let tries = 0; ; tries++) {
    if (ended || tries > 300) {
      try {
        writeFileSync(log, said);
      } catch {
        /* the message below says enough */
      }
      const fatal = said.split('\n').filter((line) => /FATAL|PANIC|HINT/.test(line));
      throw new SetupError(
        `PostgreSQL (data of version ${version}, in ${data}) does not start: ${(fatal.join(' ') || said.trim().split('\n').pop()).replace(/[.\s]*$/, '.')} ` +
          'If the folder is damaged, move it away and start again: the masters on the shelf stay, and each can be brought in again from its file.',
      );
    }
    if (spawnSync(join(bin, 'pg_isready'), client.slice(0, 4)).status === 0) break;
    await new Promise((done) => setTimeout(done, 100));
  }
  const query = (sql) => spawnSync(join(bin, 'psql'), [...client, '-Atc', sql], { encoding: 'utf8' });
  if (query("select 1 from pg_database where datname = 'inkwell'").stdout.trim() !== '1') query('create database inkwell');
  return {
    url: `postgres://inkwell@127.0.0.1:${port}/inkwell`,
    folder: home,
    stop: () => {
      run(join(bin, 'pg_ctl'), ['stop', '-D', data, '-m', 'fast', '-w', '-t', '20']);
      spawnSync('rm', ['-rf', sockets]);
    },
  };
}

// Node packages: installed when they are missing or when the lock file has changed since.
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { SetupError } from './debian.mjs';

/** What of the packages is installed: all, or without those that only tests and measurements use. */
const STAMP = { all: '.inkwell-all', product: '.inkwell-product' };

/** @param what  `product` is enough to build and to serve; who has `all` has that, too */
export async function ensureNodePackages(root, say, what = 'all') {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new SetupError(`Node.js ${process.versions.node} is too old: 20.19 or newer is needed.`);
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = (which) => join(root, 'node_modules', STAMP[which]);
  const isThere = (which) => existsSync(stamp(which)) && readFileSync(stamp(which), 'utf8') === lock;
  if (isThere('all') || (what === 'product' && isThere('product'))) return;
  say(`installing the Node packages${what === 'all' ? '' : ' that the product needs'} (npm ci)`);
  const args = ['ci', '--no-audit', '--no-fund', '--loglevel=error', ...(what === 'all' ? [] : ['--omit=dev'])];
  const child = spawn('npm', args, { cwd: root, stdio: ['ignore', 'ignore', 'pipe'] });
  let words = '';
  child.stderr.on('data', (chunk) => (words += chunk));
  const code = await new Promise((done) => child.once('error', done).once('close', done));
  if (code !== 0) throw new SetupError(`npm ci failed: ${(words || String(code)).trim().slice(-600)}`);
  writeFileSync(stamp(what), lock);
}

// Node packages: installed when they are missing or when the lock file has changed since.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { SetupError } from './postgres.mjs';

export function ensureNodePackages(root, say) {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new SetupError(`Node.js ${process.versions.node} is too old: 20.19 or newer is needed.`);
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules', '.inkwell-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('installing the Node packages (npm ci)');
  const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: root, encoding: 'utf8' });
  if (done.status !== 0) throw new SetupError(`npm ci failed: ${(done.stderr || String(done.error)).trim().slice(-600)}`);
  writeFileSync(stamp, lock);
}

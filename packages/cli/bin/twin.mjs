#!/usr/bin/env node
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const built = new URL('../../../dist/node/twin.mjs', import.meta.url);
if (!existsSync(built)) {
  // Built when it is first asked for; what is said of it must not stand in what the command says.
  const build = fileURLToPath(new URL('../../../scripts/build.mjs', import.meta.url));
  spawnSync(process.execPath, [build, '--quiet', '--only', 'node'], { stdio: ['ignore', 'ignore', 'inherit'] });
}
if (existsSync(built)) await import(built.href);
else {
  console.error('twin could not be built; the lines above say why.');
  process.exitCode = 2;
}

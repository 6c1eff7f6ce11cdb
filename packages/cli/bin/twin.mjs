#!/usr/bin/env node
import { existsSync } from 'node:fs';

const built = new URL('../../../dist/twin.mjs', import.meta.url);
if (existsSync(built)) await import(built.href);
else {
  console.error('twin is not built yet. Run: npm run build -- --only twin');
  process.exitCode = 2;
}

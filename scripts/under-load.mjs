// Runs a command while the machine is busy with others: so many loops that never rest.
// Use: node scripts/under-load.mjs LOOPS COMMAND [ARGUMENT]...     e.g. node scripts/under-load.mjs 20 npm test
import { spawn } from 'node:child_process';

const [loops, command, ...args] = process.argv.slice(2);
if (!(Number(loops) > 0) || !command) {
  console.error('Use: node scripts/under-load.mjs LOOPS COMMAND [ARGUMENT]...');
  process.exit(2);
}
// Each ends by itself when nobody is left to end it.
const LOOP = 'const parent = process.ppid; for (;;) { for (let i = 0; i < 1e8; i++); if (process.ppid !== parent) break; }';
const busy = Array.from({ length: Number(loops) }, () => spawn(process.execPath, ['-e', LOOP], { stdio: 'ignore' }));
const run = spawn(command, args, { stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => run.kill(signal));
run.once('exit', (code) => {
  for (const one of busy) one.kill('SIGKILL');
  process.exitCode = code ?? 1;
});

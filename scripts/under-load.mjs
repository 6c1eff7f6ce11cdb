// Runs a command while the machine is busy with others: so many loops that never rest, in a session of their own as others have.
// Use: node scripts/under-load.mjs LOOPS COMMAND [ARGUMENT]...     e.g. node scripts/under-load.mjs 20 npm test
import { spawn } from 'node:child_process';

const [loops, command, ...args] = process.argv.slice(2);
if (!(Number(loops) > 0) || !command) {
  console.error('Use: node scripts/under-load.mjs LOOPS COMMAND [ARGUMENT]...');
  process.exit(2);
}
const LOOP = 'for (;;);';
// They end with whoever holds them, and that one when nobody is left who began it.
const HOLDER = `const { spawn } = require('node:child_process');
for (let i = 0; i < ${Number(loops)}; i++) spawn(process.execPath, ['-e', '${LOOP}'], { stdio: 'ignore' });
const parent = process.ppid;
setInterval(() => process.ppid !== parent && process.kill(-process.pid, 'SIGKILL'), 1000);`;
const busy = spawn(process.execPath, ['-e', HOLDER], { stdio: 'ignore', detached: true });
const run = spawn(command, args, { stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => run.kill(signal));
run.once('exit', (code) => {
  process.kill(-busy.pid, 'SIGKILL');
  process.exitCode = code ?? 1;
});

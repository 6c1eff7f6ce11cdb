import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { BENCH } from '.';
import { MachineAtFolder } from './at-folder';

/** Between two looks at the folders, ms. */
const PAUSE = 250;

/** The machines of the bench, each at a folder of its own below the one that INKWELL_BENCH names. */
function main(): void {
  const root = process.env['INKWELL_BENCH'];
  if (!root) throw new Error('INKWELL_BENCH is not set: the folder in which each machine has its own.');
  mkdirSync(root, { recursive: true });
  const machines = Object.entries(BENCH).map(([id, run]) => new MachineAtFolder(join(root, id), id, run));
  const look = (): void => {
    for (const machine of machines)
      try {
        machine.look();
      } catch (error) {
        // A folder that is away for a moment is looked at again.
        console.error(`The bench: ${(error as Error).message}`);
      }
  };
  const timer = setInterval(look, PAUSE);
  const stop = (): void => {
    clearInterval(timer);
    process.exit(0);
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.on('disconnect', stop);
}

main();

import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** A demo that is loaded, derived and checked: tests begin with a copy of it. */
export interface Finished {
  /** Address of its database, which nobody is connected to. */
  readonly database: string;
  readonly shelf: string;
}

/**
 * The demo with all work of it done, made once a run: whoever needs it first makes it, the others wait, in whichever process.
 * @param which part of it
 * @param make makes it in a folder that it gets; where it fails, the next one tries
 */
export async function finishedDemo(which: string, make: (folder: string) => Promise<Finished>): Promise<Finished> {
  const { INKWELL_SHARED: shared } = process.env;
  if (!shared) throw new Error('INKWELL_SHARED is not set: run the tests with npm test');
  const folder = join(shared, `demo ${which}`);
  const note = join(folder, 'finished.json');
  while (!existsSync(note)) {
    if (mkdirSync(folder, { recursive: true }) === undefined) {
      await new Promise((done) => setTimeout(done, 200));
      continue;
    }
    try {
      writeFileSync(`${note}.part`, JSON.stringify(await make(folder)));
      renameSync(`${note}.part`, note);
    } catch (error) {
      rmSync(folder, { recursive: true, force: true });
      throw error;
    }
  }
  return JSON.parse(readFileSync(note, 'utf8')) as Finished;
}

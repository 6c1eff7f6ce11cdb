import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Failure } from '@inkwell-twin/core';
import type { Database } from '../database/database';

const NOTE = '.inkwell-shelf';

/**
 * Compares the note on a shelf that says whose it is: a worker on another machine must have the same folder before it, not
 * one like it. A shelf without one gets it.
 * @throws Failure `setup`
 */
export async function assertSameShelf(database: Database, shelf: string): Promise<void> {
  const [row] = await database.rows<{ value: string }>("select value from setting where name = 'shelf'");
  const note = join(shelf, NOTE);
  if (!existsSync(shelf)) throw new Failure('setup', `There is no folder ${shelf}. A worker needs the shelf of its server.`);
  if (!existsSync(note)) writeFileSync(note, `${row!.value}\n`);
  else if (readFileSync(note, 'utf8').trim() !== row!.value)
    throw new Failure(
      'setup',
      `${shelf} is the shelf of another data folder. If it is meant to go with this one, take away ${NOTE} in it and start again.`,
    );
}

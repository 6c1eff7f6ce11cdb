import { asFailure } from '@inkwell-twin/core';
import type { ScopedParts } from '@inkwell-twin/core';
import type { Database } from '../database/database';
import { houseOf } from '../house/house';
import type { Jobs } from '../jobs/jobs';
import { askByPreset } from './derive-many';

/** What is wrong with a master for settings, and no news: it has nothing that they say. */
const NOT_FOR_IT = new Set(['no-part', 'one-part', 'scope-unfit']);

/**
 * The standing orders of the house for a master that was updated: what it has of such parts is asked for.
 * What can't be asked for is told as a notice.
 */
export async function askByOrders(database: Database, jobs: Jobs, id: string): Promise<void> {
  const { rules } = await houseOf(database);
  const standing = rules.presets.filter(({ eachUpdate }) => eachUpdate);
  if (!standing.length) return;
  const [master] = await database.rows<{ parts: ScopedParts }>(
    "select part_names as parts from master where id = $1 and state = 'live'",
    [id],
  );
  if (!master) return;
  const failed: string[] = [];
  for (const preset of standing)
    try {
      await askByPreset(database, jobs, { id, parts: master.parts }, preset, true);
    } catch (error) {
      const { code, message } = asFailure(error);
      if (code === 'unavailable' || code === 'unexpected' || code === 'no-room') throw error;
      if (!NOT_FOR_IT.has(code)) failed.push(`“${preset.name}” could not be written: ${message}`);
    }
  await jobs.notice(id, 'orders', failed.join(' ') || null);
}

/** A copy that is written with each update, and how it stands. */
interface Ordered {
  readonly id: string;
  readonly recipe: string;
  readonly label: string;
  readonly file: string;
  readonly verdict: string;
}

export const orderedCopies = (database: Database, master: string): Promise<Ordered[]> =>
  database.rows<Ordered>(
    'select id, recipe, label, file, verdict from copy_now where master = $1 and each_update order by created_at, recipe',
    [master],
  );

/** Asks for those again that are behind or gone; what somebody changed is told, and left as it is. */
export async function deriveOrdered(database: Database, jobs: Jobs, master: string): Promise<void> {
  const copies = await orderedCopies(database, master);
  for (const { recipe, label, verdict } of copies)
    if (verdict === 'behind' || verdict === 'gone') await jobs.derive(master, recipe, label);
  const changed = copies.filter(({ verdict }) => verdict === 'crossed' || verdict === 'unreadable').map(({ file }) => file);
  const words = `Not written with this update, since somebody changed ${changed.length === 1 ? 'it' : 'them'}: ${changed.join(', ')}.`;
  await jobs.notice(master, 'ordered', changed.length ? words : null);
  await jobs.event({ kind: 'copies', master });
}

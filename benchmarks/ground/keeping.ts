import { type Master, journalHashes, moveItems, stepOf, writePackage } from '@inkwell-twin/core';
import pg from 'pg';
import { OBJECTS, largeMaster } from '../large-master';
import { RunningWorkshop } from './running';

const ROUNDS = [1, 10, 100] as const;

/** What is stored for updates of 1, 10 and 100 edits of a master of 20,000 objects: rows of revisions, and bytes of files. */
export async function benchmarkKeeping(): Promise<Record<string, number>> {
  const workshop = await RunningWorkshop.start();
  const client = new pg.Client(workshop.postgres.owner);
  try {
    await client.connect();
    let now: Master = largeMaster('large-1');
    const time = '2026-11-25T10:00:00.000Z';
    const history = { first: now, revisions: [{ rev: 1, time, author: '', message: '', patches: [] }] };
    const id = await workshop.bringIn(
      'large.inkwell',
      writePackage({ master: now, rev: 1, time, history, resources: new Map() }),
    );
    await workshop.idle();
    const stored = async (): Promise<number> => {
      const { rows } = await client.query<{ size: string }>(
        `select (select coalesce(sum(octet_length(patches::text) + coalesce(octet_length(document::text), 0)), 0) from revision)
              + (select coalesce(sum(octet_length(bytes)), 0) from chunk) as size`,
      );
      return Number(rows[0]!.size);
    };
    const figures: Record<string, number> = { 'a master of 20,000 objects as it comes in, bytes stored': await stored() };
    for (const [i, edits] of ROUNDS.entries()) {
      const before = await stored();
      const rev = i + 1;
      const steps = [];
      for (let k = 0; k < edits; k++) {
        const { label, patches } = moveItems(now, [`r${(k * 7919 + rev) % OBJECTS}`], 0.5, 0);
        const { step, master } = stepOf(now, label, patches);
        now = master;
        steps.push(step);
      }
      const hashes = journalHashes(id, rev, steps);
      const draft = { base: rev, position: 0, hash: hashes[0]!, steps };
      await workshop.call('POST', `/api/masters/${id}/draft/steps`, draft);
      const update = { base: rev, position: edits, hash: hashes.at(-1)!, message: 'Moved' };
      const { status } = await workshop.call('POST', `/api/masters/${id}/update`, update);
      if (status !== 200) throw new Error(`The update was answered ${status}.`);
      await workshop.idle();
      figures[`an update of ${edits} ${edits === 1 ? 'edit' : 'edits'} on 20,000 objects, bytes stored`] =
        (await stored()) - before;
    }
    return figures;
  } finally {
    await client.end();
    await workshop.stop();
  }
}

import { type Master, type Step, journalHashes, moveItems, stepOf, applyPatches, writePackage } from '@inkwell-twin/core';
import { OBJECTS, largeMaster } from '../large-master';
import { RunningWorkshop, pause, percentile, timed, watchStolen } from './running';

const READERS = 20;

/** A master as a native file with its history. */
function packed(master: Master): Uint8Array {
  const time = '2026-11-25T10:00:00.000Z';
  const history = { first: master, revisions: [{ rev: 1, time, author: '', message: '', patches: [] }] };
  return writePackage({ master, rev: 1, time, history, resources: new Map() });
}

/** Many readers while heavy derivations run, and steps on a large draft. */
export async function benchmarkLoad(): Promise<Record<string, number>> {
  const stolen = watchStolen();
  const workshop = await RunningWorkshop.start();
  try {
    const large = largeMaster('large-1');
    const id = await workshop.bringIn('large.inkwell', packed(large));
    const { body: small } = await workshop.call<{ id: string }>('POST', '/api/masters', {
      title: 'Small',
      purpose: 'panel',
      owner: '',
    });
    await workshop.idle();

    const times: Record<'health' | 'master' | 'document', number[]> = { health: [], master: [], document: [] };
    for (let i = 0; i < 5; i++)
      await workshop.call('POST', `/api/masters/${id}/copies`, { target: i % 2 ? 'dxf' : 'svg', label: `copy ${i}` });
    let over = false;
    const reading = Array.from({ length: READERS }, async (_, i) => {
      while (!over) {
        times.health.push(await timed(() => workshop.call('GET', '/api/health')));
        times.master.push(await timed(() => workshop.call('GET', `/api/masters/${i % 2 ? id : small.id}`)));
        if (i === 0)
          times.document.push(
            await timed(() => fetch(`${workshop.url}/api/masters/${id}/revisions/1`).then((answer) => answer.arrayBuffer())),
          );
        await pause(100 + ((i * 13) % 100));
      }
    });
    const deriving = await timed(() => workshop.idle());
    over = true;
    await Promise.all(reading);

    // Steps: each builds on what the last one left, as a browser sends them.
    let now = large;
    const steps: Step[] = [];
    let hash = journalHashes(id, 1, [])[0]!;
    const send = async (ids: readonly string[]): Promise<number> => {
      const { label, patches } = moveItems(now, ids, 0.5, 0);
      const { step } = stepOf(now, label, patches);
      now = applyPatches(now, patches).master;
      const body = { base: 1, position: steps.length, hash, steps: [step] };
      steps.push(step);
      let status = 0;
      const took = await timed(async () => {
        const answer = await workshop.call<{ hash: string }>('POST', `/api/masters/${id}/draft/steps`, body);
        ({ status } = answer);
        ({ hash } = answer.body);
      });
      if (status !== 200) throw new Error(`A step was answered ${status}.`);
      return took;
    };
    await send(['r0']);
    const first: number[] = [];
    for (let i = 0; i < 50; i++) first.push(await send([`r${(i * 7919) % OBJECTS}`]));
    for (let i = 0; i < 900; i++) await send([`r${(i * 104729) % OBJECTS}`]);
    const last: number[] = [];
    for (let i = 0; i < 50; i++) last.push(await send([`r${(i * 7919) % OBJECTS}`]));
    const health: number[] = [];
    let busy = true;
    const watching = (async () => {
      for (; busy; await pause(10)) health.push(await timed(() => workshop.call('GET', '/api/health')));
    })();
    const four: number[] = [];
    for (let i = 0; i < 5; i++) four.push(await send(Array.from({ length: 4000 }, (_, k) => `r${k * 5 + i}`)));
    busy = false;
    await watching;
    const updating = await timed(() =>
      workshop.call('POST', `/api/masters/${id}/update`, { base: 1, position: steps.length, hash, message: 'Moved' }),
    );
    // What is usual: one edit, then an update.
    const usual: number[] = [];
    for (let rev = 2; rev < 12; rev++) {
      const { label, patches } = moveItems(now, [`r${rev * 977}`], 1, 0);
      const { step, master } = stepOf(now, label, patches);
      now = master;
      const [start, end] = journalHashes(id, rev, [step]);
      await workshop.call('POST', `/api/masters/${id}/draft/steps`, { base: rev, position: 0, hash: start, steps: [step] });
      usual.push(
        await timed(() => workshop.call('POST', `/api/masters/${id}/update`, { base: rev, position: 1, hash: end, message: '' })),
      );
    }
    return {
      '20 readers beside 5 heavy derivations: health, ms (p95)': percentile(times.health, 0.95),
      '20 readers beside 5 heavy derivations: a master, ms (p95)': percentile(times.master, 0.95),
      '20 readers beside 5 heavy derivations: its document of 20,000 objects, ms (p95)': percentile(times.document, 0.95),
      'those 5 derivations, each of 20,000 objects, s': deriving / 1000,
      'a small step on 20,000 objects, the first fifty, ms (median)': percentile(first, 0.5),
      'a small step on 20,000 objects, after a thousand, ms (median)': percentile(last, 0.5),
      'a step on 4,000 of 20,000 objects, ms (median of 5)': percentile(four, 0.5),
      'health while those steps are kept, ms (p95)': percentile(health, 0.95),
      'update of 20,000 objects after a thousand steps, ms': updating,
      'update of 20,000 objects after one edit, ms (median of 10)': percentile(usual, 0.5),
      'share of the processor that other machines took meanwhile, %': stolen(),
      'memory of the server after all that, MB': workshop.memory(),
    };
  } finally {
    await workshop.stop();
  }
}

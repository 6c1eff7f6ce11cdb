import { Worker } from 'node:worker_threads';
import { newStopwatch, watchWork } from '../src/compute/stopwatch';

/** A thread that waits or works for so many milliseconds, as soon as it is there, and then stands still. */
const THREAD = `
const { workerData } = require('node:worker_threads');
const { readlinkSync } = require('node:fs');
const { watch, waits, works } = workerData;
Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, waits);
const cpu = () => Number(require('node:fs').readFileSync('/proc/thread-self/schedstat', 'utf8').split(' ')[0]) / 1e6;
Atomics.store(watch, 1, cpu());
Atomics.store(watch, 0, Number(readlinkSync('/proc/thread-self').split('/').pop()));
for (const end = cpu() + works; cpu() < end;);
Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 700);
`;

/** Whether a task is ended that is allowed so many seconds of work. */
async function isEnded(limit: number, { waits, works }: { waits: number; works: number }): Promise<boolean> {
  const watch = newStopwatch();
  let ended = false;
  const stop = watchWork(watch, limit, () => (ended = true));
  const thread = new Worker(THREAD, { eval: true, workerData: { watch, waits, works } });
  await new Promise((done) => thread.once('exit', done));
  stop();
  return ended;
}

describe('the time that a task gets', () => {
  it('counts what it computes', async () => expect(await isEnded(0.3, { waits: 0, works: 900 })).toBe(true));
  it('does not begin before it does: its thread may take as long as it likes to start', async () =>
    expect(await isEnded(1, { waits: 6000, works: 20 })).toBe(false));
  it('leaves time to wait for others', async () => expect(await isEnded(1, { waits: 0, works: 20 })).toBe(false));
});

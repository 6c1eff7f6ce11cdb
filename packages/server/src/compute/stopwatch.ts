import { readFileSync, readlinkSync } from 'node:fs';

/** What a task and who waits for it share: the thread that does it, once it has begun, and what that had computed before, ms. */
export const newStopwatch = (): Int32Array => new Int32Array(new SharedArrayBuffer(8));

/** In the thread: the task begins now. */
export function begin(watch: Int32Array): void {
  let thread = -1;
  try {
    // Where each thread finds itself: <process>/task/<thread>, see proc(5).
    thread = Number(readlinkSync('/proc/thread-self').split('/').pop());
  } catch {
    // Without it, time on the wall is what there is.
  }
  Atomics.store(watch, 1, Math.round(1000 * (secondsOf(thread) ?? 0)));
  Atomics.store(watch, 0, thread || -1);
}

/** Seconds that a thread of this process has computed; undefined where the system does not say. */
function secondsOf(thread: number): number | undefined {
  if (thread < 0) return undefined;
  try {
    const [nanoseconds] = readFileSync(`/proc/self/task/${thread}/schedstat`, 'utf8').split(' ');
    return Number(nanoseconds) / 1e9;
  } catch {
    return undefined;
  }
}

/** Milliseconds between two looks. */
const LOOK = 250;
/** Seconds on the wall to one of work: what waits for others, or a machine that is busy with others, gets that long. */
const WAITING = 5;

/**
 * Ends a task that has worked for too long. Only its own work counts, from when it began: neither the start of its thread nor
 * what else the machine does.
 * @param limit  seconds of work
 * @returns what stops the watch
 */
export function watchWork(watch: Int32Array, limit: number, end: () => void): () => void {
  let begun: number | undefined;
  const timer = setInterval(() => {
    const thread = Atomics.load(watch, 0);
    if (thread === 0) return;
    const now = performance.now() / 1000;
    begun ??= now;
    const computed = secondsOf(thread);
    const worked = computed === undefined ? 0 : computed - Atomics.load(watch, 1) / 1000;
    if (worked > limit || now - begun > limit * (computed === undefined ? 1 : WAITING)) end();
  }, LOOK);
  return () => clearInterval(timer);
}

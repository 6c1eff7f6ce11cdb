/**
 * Median time of several runs, ms, after two that warm up. Garbage is collected once before them where Node allows it: doing
 * so before each would throw away compiled code, and what is measured would be the compiler.
 */
export async function median(runs: number, work: () => unknown): Promise<number> {
  const times: number[] = [];
  await work();
  await work();
  (globalThis as { gc?: () => void }).gc?.();
  for (let i = 0; i < runs; i++) {
    const start = process.hrtime.bigint();
    await work();
    times.push(Number(process.hrtime.bigint() - start) / 1e6);
  }
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!;
}

/** Rounds until the compiler has settled, as it has in a server that runs for longer. */
const WARMING = 8;

/**
 * Median times of two ways to do the same, ms, turn by turn: a machine whose speed changes is then as fast for both.
 * @returns of the first and of the second
 */
export async function besides(rounds: number, ours: () => unknown, theirs: () => unknown): Promise<[number, number]> {
  const times: [number[], number[]] = [[], []];
  const timed = async (work: () => unknown, into: number[]) => {
    const start = process.hrtime.bigint();
    await work();
    into.push(Number(process.hrtime.bigint() - start) / 1e6);
  };
  for (let i = 0; i < WARMING; i++) for (const work of [ours, theirs]) await work();
  for (let i = 0; i < rounds; i++) {
    await timed(ours, times[0]);
    await timed(theirs, times[1]);
  }
  const middle = (all: number[]) => all.sort((a, b) => a - b)[Math.floor(rounds / 2)]!;
  return [middle(times[0]), middle(times[1])];
}

/** Memory of the whole process at its highest so far, MB. */
export const peakMemory = (): number => process.resourceUsage().maxRSS / 1024;

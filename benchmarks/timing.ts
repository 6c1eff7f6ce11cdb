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

/** Memory of the whole process at its highest so far, MB. */
export const peakMemory = (): number => process.resourceUsage().maxRSS / 1024;

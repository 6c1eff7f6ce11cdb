/** Median time of several runs, ms; garbage is collected before each where Node allows it. */
export function median(runs: number, work: () => unknown): number {
  const times: number[] = [];
  work();
  for (let i = 0; i < runs; i++) {
    (globalThis as { gc?: () => void }).gc?.();
    const start = process.hrtime.bigint();
    work();
    times.push(Number(process.hrtime.bigint() - start) / 1e6);
  }
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!;
}

/** Memory of the whole process at its highest so far, MB. */
export const peakMemory = (): number => process.resourceUsage().maxRSS / 1024;

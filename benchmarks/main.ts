// Figures and ratios, measured in one run beside public libraries that do the same work. Never fails on time.
import { writeFileSync } from 'node:fs';
import { benchmarkFootprints } from './footprints';
import { benchmarkReading } from './reading';
import { peakMemory } from './timing';
import { benchmarkTrust } from './trust';
import { benchmarkWriting } from './writing';

const results: Record<string, number> = {};
for (const [name, run] of Object.entries({
  writing: benchmarkWriting,
  footprints: benchmarkFootprints,
  reading: benchmarkReading,
  trust: benchmarkTrust,
})) {
  Object.assign(results, run(), { [`memory at its highest after ${name}, MB`]: peakMemory() });
}
for (const [what, figure] of Object.entries(results))
  console.log(`${what.padEnd(60)} ${figure.toFixed(figure < 100 ? 2 : 0).padStart(10)}`);
writeFileSync(
  new URL('../benchmarks/results.json', import.meta.url),
  `${JSON.stringify(results, (_, value) => (typeof value === 'number' ? Number(value.toPrecision(4)) : value), 2)}\n`,
);

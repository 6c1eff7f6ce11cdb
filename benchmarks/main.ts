// Figures and ratios, measured in one run beside public libraries that do the same work. Never fails on time.
// Use: npm run benchmark [-- PART ...]; the parts are listed below. Only a run of all parts is written down.
import { writeFileSync } from 'node:fs';
import { benchmarkDeriving } from './deriving';
import { benchmarkFootprints } from './footprints';
import { benchmarkDesk } from './ground/desk';
import { benchmarkKills } from './ground/kills';
import { benchmarkLoad } from './ground/load';
import { benchmarkReading } from './reading';
import { benchmarkMatching } from './matching';
import { peakMemory } from './timing';
import { benchmarkTrust } from './trust';
import { benchmarkWriting } from './writing';

type Figures = Record<string, number>;
const PARTS: Readonly<Record<string, () => Figures | Promise<Figures>>> = {
  writing: benchmarkWriting,
  deriving: benchmarkDeriving,
  footprints: benchmarkFootprints,
  reading: benchmarkReading,
  matching: benchmarkMatching,
  trust: benchmarkTrust,
  desk: benchmarkDesk,
  load: benchmarkLoad,
  kills: benchmarkKills,
};
const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !(name in PARTS));
if (unknown.length) {
  console.error(`There is no part ${unknown.join(', ')}. Parts: ${Object.keys(PARTS).join(', ')}`);
  process.exit(2);
}
const results: Record<string, number> = {};
for (const [name, run] of Object.entries(PARTS)) {
  if (asked.length && !asked.includes(name)) continue;
  const found = { ...(await run()), [`memory at its highest after ${name}, MB`]: peakMemory() };
  Object.assign(results, found);
  for (const [what, figure] of Object.entries(found))
    console.log(`${what.padEnd(82)} ${figure.toFixed(figure < 100 ? 2 : 0).padStart(10)}`);
}
if (!asked.length)
  writeFileSync(
    new URL('../benchmarks/results.json', import.meta.url),
    `${JSON.stringify(results, (_, value) => (typeof value === 'number' ? Number(value.toPrecision(4)) : value), 2)}\n`,
  );

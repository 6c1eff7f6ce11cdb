// Figures and ratios, measured in one run beside public libraries that do the same work. Never fails on time.
// Use: npm run benchmark [-- PART ...]; the parts are listed below. Only a run of all parts is written down.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { benchmarkDeriving } from './deriving';
import { benchmarkLeaflet, benchmarkSizes, benchmarkVariants } from './deliver';
import { benchmarkFootprints } from './footprints';
import { benchmarkDesk } from './ground/desk';
import { benchmarkKeeping } from './ground/keeping';
import { benchmarkKills } from './ground/kills';
import { benchmarkLoad } from './ground/load';
import { benchmarkMachines } from './machines';
import { benchmarkReading } from './reading';
import { benchmarkMatching } from './matching';
import { benchmarkAlbum, benchmarkPages, benchmarkPictures, benchmarkRasterCheck } from './pages';
import { peakMemory } from './timing';
import { benchmarkSolids } from './solids';
import { benchmarkTexts } from './texts';
import { benchmarkTrust } from './trust';
import { benchmarkOtherHands } from './trust-other-hands';
import { benchmarkWriting } from './writing';

type Figures = Record<string, number>;
const PARTS: Readonly<Record<string, () => Figures | Promise<Figures>>> = {
  writing: benchmarkWriting,
  deriving: benchmarkDeriving,
  footprints: benchmarkFootprints,
  reading: benchmarkReading,
  matching: benchmarkMatching,
  pages: benchmarkPages,
  album: benchmarkAlbum,
  deliver: benchmarkLeaflet,
  'deliver-sizes': benchmarkSizes,
  'deliver-variants': benchmarkVariants,
  machines: benchmarkMachines,
  'raster-check': benchmarkRasterCheck,
  pictures: benchmarkPictures,
  trust: benchmarkTrust,
  'trust-other-hands': benchmarkOtherHands,
  solids: () => benchmarkSolids(20_261_126),
  texts: () => benchmarkTexts(20_261_126),
  desk: benchmarkDesk,
  load: benchmarkLoad,
  kills: benchmarkKills,
  keeping: benchmarkKeeping,
};
const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !(name in PARTS));
if (unknown.length) {
  console.error(`There is no part ${unknown.join(', ')}. Parts: ${Object.keys(PARTS).join(', ')}`);
  process.exit(2);
}
// Each part in a process of its own: what one leaves in memory would slow the next down.
const [only, out] = [process.env['INKWELL_BENCHMARK_PART'], process.env['INKWELL_BENCHMARK_OUT']];
if (only && out) {
  const found = { ...(await PARTS[only]!()), [`memory at its highest after ${only}, MB`]: peakMemory() };
  writeFileSync(out, JSON.stringify(found));
  process.exit(0);
}
const results: Record<string, number> = {};
const folder = mkdtempSync(join(tmpdir(), 'inkwell-benchmark-'));
for (const name of Object.keys(PARTS)) {
  // One that is asked for brings those with it that go on from its name.
  if (asked.length && !asked.some((one) => name === one || name.startsWith(`${one}-`))) continue;
  const file = join(folder, `${name}.json`);
  const run = spawnSync(process.execPath, [...process.execArgv, fileURLToPath(import.meta.url)], {
    env: { ...process.env, INKWELL_BENCHMARK_PART: name, INKWELL_BENCHMARK_OUT: file },
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (run.status !== 0) {
    console.error(`The part ${name} ended with ${run.status}.`);
    process.exitCode = 1;
    continue;
  }
  const found = JSON.parse(readFileSync(file, 'utf8')) as Record<string, number>;
  Object.assign(results, found);
  for (const [what, figure] of Object.entries(found))
    console.log(`${what.padEnd(82)} ${figure.toFixed(figure < 100 ? 2 : 0).padStart(10)}`);
}
rmSync(folder, { recursive: true });
if (!asked.length && !process.exitCode)
  writeFileSync(
    new URL('../../benchmarks/results.json', import.meta.url),
    `${JSON.stringify(results, (_, value) => (typeof value === 'number' ? Number(value.toPrecision(4)) : value), 2)}\n`,
  );

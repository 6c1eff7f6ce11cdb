import { checkCopy, derive, recipeOf } from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { changedTables } from '../packages/core/test/faults/tables';
import { hasJudge } from '../packages/core/test/judged-by';
import { seriesMaster, seriesTable } from '../packages/core/test/series';

const TARGETS = ['csv', 'xlsx', 'html', 'json'];
/** How often each fault is made of each table. */
const EACH = 4;

/** Copies of tables, spoiled and re-written by libraries that are not ours, and what the check finds. */
export async function benchmarkTableTrust(seed: number): Promise<Record<string, number>> {
  if (!hasJudge('openpyxl')) return {};
  const services = { fonts: shippedFonts() };
  const counts = { faults: 0, caught: 0, harmless: 0, alarms: 0 };
  for (const rows of [24, 61]) {
    const master = seriesMaster(seriesTable(rows));
    const made = new Map(
      await Promise.all(
        TARGETS.map(
          async (target) =>
            [target, await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipeOf(target, {}), services)] as const,
        ),
      ),
    );
    const copies = Object.fromEntries(TARGETS.map((target) => [target, made.get(target)!.files[0]!.bytes]));
    for (const { target, name, harmless, bytes } of changedTables(copies, seed + rows, EACH)) {
      const input = {
        files: [{ part: '', bytes }],
        intact: false,
        says: made.get(target)!.says,
        recipe: recipeOf(target, {}),
        current: master,
        baseline: master,
      };
      const { verdict } = await checkCopy(input, services);
      const passes = verdict === 'in step';
      if (passes !== harmless)
        console.log(`${harmless ? 'false alarm' : 'missed'}: ${target}, ${name} (${verdict}), ${rows} rows`);
      counts[harmless ? 'harmless' : 'faults']++;
      if (!passes) counts[harmless ? 'alarms' : 'caught']++;
    }
  }
  return {
    'faults of tables tried': counts.faults,
    'faults of tables caught, %': (100 * counts.caught) / counts.faults,
    'harmless changes of tables tried': counts.harmless,
    'false alarms of tables, %': (100 * counts.alarms) / counts.harmless,
  };
}

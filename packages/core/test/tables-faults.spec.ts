import { checkCopy, derive, recipeOf } from '../src';
import { changedTables } from './faults/tables';
import { services } from './flat';
import { seriesMaster } from './series';
import { atDepth } from './depth';
import { judgedBy } from './judged-by';

const master = seriesMaster();
const time = '2026-11-20T10:00:00.000Z';
const TARGETS = ['csv', 'xlsx', 'html', 'json'];

judgedBy('openpyxl').it(
  'copies of tables, spoiled in every way, are found false, and re-written without harm they stay in step',
  async () => {
    const made = new Map<string, Awaited<ReturnType<typeof derive>>>();
    for (const target of TARGETS) made.set(target, await derive({ master, rev: 1, time }, recipeOf(target, {}), services));
    const copies = Object.fromEntries(TARGETS.map((target) => [target, made.get(target)!.files[0]!.bytes]));
    const all = changedTables(copies, 20_261_126, atDepth(1, 6));
    const wrong: string[] = [];
    let [faults, harmless] = [0, 0];
    for (const { target, name, harmless: same, bytes } of all) {
      const recipe = recipeOf(target, {});
      const result = await checkCopy(
        { files: [{ part: '', bytes }], intact: false, says: made.get(target)!.says, recipe, current: master, baseline: master },
        services,
      );
      if (same) harmless++;
      else faults++;
      if ((result.verdict === 'in step') !== same)
        wrong.push(
          `${target} ${name}: ${result.verdict} ${result.differences
            .slice(0, 3)
            .map((one) => `${one.kind} ${one.what} ${one.master} ${one.copy}`)
            .join('; ')} ${result.proof}`,
        );
    }
    expect(wrong).toEqual([]);
    expect(faults).toBeGreaterThan(atDepth(80, 500));
    expect(harmless).toBeGreaterThanOrEqual(atDepth(10, 40));
  },
);

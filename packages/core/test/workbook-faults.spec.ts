import { checkCopy, derive, recipeOf } from '../src';
import { changedCopies } from './faults/changed';
import { means } from './flat';
import { seriesMaster } from './series';
import { atDepth } from './depth';
import { judgedBy } from './judged-by';

const SEED = Number(process.env['INKWELL_SEED'] ?? 20_261_130);
const time = '2026-11-20T10:00:00.000Z';

judgedBy('lxml').it(
  `workbooks, spoiled in the parts of their package, are found false, and re-written without harm they stay in step (seed ${SEED})`,
  async () => {
    const [master, recipe] = [seriesMaster(), recipeOf('xlsx', {})];
    const { files, says } = await derive({ master, rev: 1, time }, recipe, means);
    const wrong: string[] = [];
    const kinds = { faults: new Set<string>(), harmless: new Set<string>() };
    for (const { name, harmless, bytes } of changedCopies(
      'packages/core/test/faults/workbook.py',
      { xlsx: files[0]!.bytes },
      SEED,
      atDepth(1, 5),
    )) {
      kinds[harmless ? 'harmless' : 'faults'].add(name);
      const input = { files: [{ part: '', bytes }], whole: false, says, recipe, now: master, then: master };
      const { verdict, differences, proof } = await checkCopy(input, means);
      if ((verdict === 'in step') === harmless) continue;
      const found = differences.slice(0, 3).map(({ kind, what, master: ours, copy }) => `${kind} ${what} ${ours} ${copy}`);
      wrong.push(`${name}: ${verdict} ${found.join('; ')} ${proof}`);
    }
    expect(wrong).toEqual([]);
    expect(kinds.faults.size).toBeGreaterThan(80);
    expect(kinds.harmless.size).toBeGreaterThan(40);
  },
);

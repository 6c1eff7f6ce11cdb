import { addFormats, checkCopy, derive, recipeOf } from '@inkwell-twin/core';
import { nodeFormats } from '../src';
import { changedCopies } from '../../core/test/faults/changed';
import { guide, masterOf, means, time } from './prose';
import { atDepth } from '../../core/test/depth';
import { judgedBy } from '../../core/test/judged-by';

addFormats(nodeFormats);
const SEED = Number(process.env['INKWELL_SEED'] ?? 20_261_130);
/** So many kinds of fault, and of change without harm, there are at least of each format. */
const KINDS: Readonly<Record<string, readonly [faults: number, harmless: number]>> = { docx: [90, 33], odt: [100, 33] };

describe('documents that other hands changed in the parts of their package', () => {
  judgedBy('lxml').it.each(Object.keys(KINDS))(
    `%s: whatever shows is found out, and nothing else alarms (seed ${SEED})`,
    async (target) => {
      const [master, recipe] = [await masterOf(await guide()), recipeOf(target, {}, { of: 'texts', ids: [] })];
      const { files, says } = await derive({ master, rev: 1, time }, recipe, means);
      const wrong: string[] = [];
      const kinds = { faults: new Set<string>(), harmless: new Set<string>() };
      for (const { name, harmless, bytes } of changedCopies(
        `packages/render/test/faults/${target}-parts.py`,
        { [target]: files[0]!.bytes },
        SEED,
        atDepth(1, 4),
      )) {
        kinds[harmless ? 'harmless' : 'faults'].add(name);
        const input = { files: [{ part: '', bytes }], whole: false, says, recipe, now: master, then: master };
        const { verdict, differences, proof } = await checkCopy(input, means);
        if ((verdict === 'in step') === harmless) continue;
        const found = differences.slice(0, 3).map(({ kind, what, master: ours, copy }) => `${kind} ${what} ${ours} ${copy}`);
        wrong.push(`${name}: ${verdict} ${found.join('; ')} ${proof}`);
      }
      expect(wrong).toEqual([]);
      expect(kinds.faults.size).toBeGreaterThanOrEqual(KINDS[target]![0]);
      expect(kinds.harmless.size).toBeGreaterThanOrEqual(KINDS[target]![1]);
    },
  );
});

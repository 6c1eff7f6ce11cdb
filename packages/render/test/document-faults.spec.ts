import * as core from '@inkwell-twin/core';
import { nodeFormats } from '../src';
import { guide, masterOf, services } from './prose';
import { atDepth } from '../../core/test/depth';
import { misjudged } from '../../core/test/faults/misjudged';
import { judgedBy } from '../../core/test/judged-by';

core.addFormats(nodeFormats);
const seed = Number(process.env['INKWELL_SEED'] ?? 20_261_130);
/** Scripts, and so many kinds of fault and of change without harm there are at least for each target. */
const OUTSIDERS = [
  ['docx-parts', { docx: [90, 33] }],
  ['odt-parts', { odt: [100, 33] }],
  ['writings', { html: [195, 60], epub: [205, 65], txt: [60, 25] }],
] as const;

describe('documents that other hands changed in their parts, elements and letters', () => {
  judgedBy('lxml').it.each(OUTSIDERS)(
    `%s: whatever shows is found out, and nothing else alarms (seed ${seed})`,
    async (script, least) => {
      const { wrong, kinds } = await misjudged(core, {
        script: `packages/render/test/faults/${script}.py`,
        targets: Object.keys(least),
        master: await masterOf(await guide()),
        services,
        scope: { of: 'texts', ids: [] },
        seed,
        each: atDepth(1, 4),
      });
      expect(wrong).toEqual([]);
      for (const [target, [faults, harmless]] of Object.entries(least)) {
        expect(kinds[target]!.faults).toBeGreaterThanOrEqual(atDepth(0.3 * faults, faults));
        expect(kinds[target]!.harmless).toBeGreaterThanOrEqual(atDepth(0.3 * harmless, harmless));
      }
    },
  );
});

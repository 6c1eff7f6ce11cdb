import * as core from '@inkwell-twin/core';
import { masterOf, sample } from './workshop';
import { atDepth } from '../../core/test/depth';
import { misjudged } from '../../core/test/faults/misjudged';
import { judgedBy } from '../../core/test/judged-by';

const seed = Number(process.env['INKWELL_SEED'] ?? 20_261_130);
/** Scripts, and so many kinds of fault and of change without harm there are at least for each target. */
const OUTSIDERS = [
  ['block by block', 'blocks', [120, 90], {}, { png: [32, 25], jpeg: [15, 25], webp: [8, 25], tiff: [20, 25] }],
  // Pillow reads no colours of sixteen bits.
  ['painted on', 'painted', [300, 200], { tiff: { depth: '8' } }, { png: [75, 8], jpeg: [70, 0], webp: [75, 0], tiff: [75, 5] }],
] as const;

describe('pictures that other hands changed', () => {
  judgedBy('lxml', 'PIL').it.each(OUTSIDERS)(
    `%s: whatever shows is found out, and nothing else alarms (seed ${seed})`,
    async (_, script, [width, height], options, least) => {
      const { wrong, kinds } = await misjudged(core, {
        script: `packages/render/test/faults/${script}.py`,
        targets: Object.keys(least),
        ...(await masterOf(sample(width, height))),
        options,
        seed,
        each: atDepth(1, 2),
        every: 2,
      });
      expect(wrong).toEqual([]);
      for (const [target, [faults, harmless]] of Object.entries(least)) {
        // In the usual run every other kind is tried, on one of the formats.
        expect(kinds[target]!.faults).toBeGreaterThanOrEqual(atDepth(0.05 * faults, faults));
        expect(kinds[target]!.harmless).toBeGreaterThanOrEqual(atDepth(0.05 * harmless, harmless));
      }
    },
  );
});

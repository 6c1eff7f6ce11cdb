import * as core from '@inkwell-twin/core';
import { masterOf, sample } from './workshop';
import { atDepth } from '../../core/test/depth';
import { misjudged } from '../../core/test/faults/misjudged';
import { judgedBy } from '../../core/test/judged-by';

const seed = Number(process.env['INKWELL_SEED'] ?? 20_261_130);
/** So many kinds of fault and of change without harm there are at least for each target. */
const LEAST = { png: [32, 18], jpeg: [15, 8], webp: [8, 3], tiff: [20, 12] } as const;

judgedBy('lxml').it(
  `pictures that other hands changed, block by block: whatever shows is found out, and nothing else alarms (seed ${seed})`,
  async () => {
    const { wrong, kinds } = await misjudged(core, {
      script: 'packages/render/test/faults/blocks.py',
      targets: Object.keys(LEAST),
      ...(await masterOf(sample(300, 200))),
      seed,
      each: atDepth(1, 6),
    });
    expect(wrong).toEqual([]);
    for (const [target, [faults, harmless]] of Object.entries(LEAST)) {
      expect(kinds[target]!.faults).toBeGreaterThanOrEqual(atDepth(0.6 * faults, faults));
      expect(kinds[target]!.harmless).toBeGreaterThanOrEqual(atDepth(0.6 * harmless, harmless));
    }
  },
);

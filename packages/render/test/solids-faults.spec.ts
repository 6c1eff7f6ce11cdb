import * as core from '@inkwell-twin/core';
import { nodeFormats } from '../src';
import { masterOf, services, plate } from './part';
import { atDepth, isLong } from '../../core/test/depth';
import { misjudged } from '../../core/test/faults/misjudged';
import { judgedBy } from '../../core/test/judged-by';

core.addFormats(nodeFormats);
const seed = Number(process.env['INKWELL_SEED'] ?? 20_261_126);
// Fewer triangles find the same faults, in a fraction of the time.
const COARSE = isLong ? {} : { chord: 0.1, angle: 20 };
/** Scripts, which share of their changes is tried in the usual run, and so many kinds of fault and of change without harm there are. */
const OUTSIDERS = [
  ['surface by surface', 'solids', 5, { stl: [25, 9], obj: [26, 8], '3mf': [27, 9], gltf: [29, 7], step: [20, 6] }],
  ['triangle by triangle', 'triangles', 8, { stl: [80, 30], obj: [88, 30], '3mf': [100, 30], gltf: [125, 30] }],
  ['entity by entity', 'entities', 12, { step: [68, 36] }],
] as const;

describe('solids that other hands changed', () => {
  judgedBy('stl', 'numpy', 'lxml').it.each(OUTSIDERS)(
    `%s: whatever shows is found out, and nothing else alarms (seed ${seed})`,
    async (_, script, every, least) => {
      const { wrong, kinds } = await misjudged(core, {
        script: `packages/render/test/faults/${script}.py`,
        targets: Object.keys(least),
        master: masterOf(plate()),
        services,
        options: { stl: COARSE, obj: COARSE, '3mf': COARSE, gltf: COARSE },
        extensions: { gltf: 'glb' },
        seed,
        each: atDepth(1, 2),
        every,
      });
      expect(wrong).toEqual([]);
      const share = atDepth(0.1 / every, 1);
      for (const [target, [faults, harmless]] of Object.entries(least)) {
        expect(kinds[target]!.faults).toBeGreaterThanOrEqual(Math.floor(share * faults));
        expect(kinds[target]!.harmless).toBeGreaterThanOrEqual(Math.floor(share * harmless));
      }
    },
  );
});

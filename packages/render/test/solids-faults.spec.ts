import { addFormats, checkCopy, derive, recipeOf } from '@inkwell-twin/core';
import { nodeFormats } from '../src';
import { changedSolids } from './faults/solids';
import { masterOf, means, plate, time } from './part';
import { atDepth, isLong } from '../../core/test/depth';
import { judgedBy } from '../../core/test/judged-by';

addFormats(nodeFormats);
const master = masterOf(plate());
/** The extension of each target's copies. */
// Fewer triangles find the same faults, in a fraction of the time.
const COARSE = isLong ? {} : { chord: 0.1, angle: 20 };
const recipe = (target: string) => recipeOf(target, target === 'step' ? {} : COARSE);
const TARGETS = { stl: 'stl', obj: 'obj', '3mf': '3mf', gltf: 'glb', step: 'step' } as const;

judgedBy('stl', 'numpy').it(
  'copies of a solid, spoiled in every way, are found false, and re-written without harm they stay in step',
  async () => {
    const made = new Map<string, { target: string; says: string; bytes: Uint8Array }>();
    for (const [target, extension] of Object.entries(TARGETS)) {
      const { files, says, defects } = await derive({ master, rev: 1, time }, recipe(target), means);
      expect(defects).toEqual([]);
      made.set(extension, { target, says, bytes: files[0]!.bytes });
    }
    const copies = Object.fromEntries([...made].map(([extension, { bytes }]) => [extension, bytes]));
    const wrong: string[] = [];
    let [faults, harmless] = [0, 0];
    for (const { extension, name, harmless: same, bytes } of changedSolids(copies, 20_261_126, atDepth(1, 3))) {
      const { target, says } = made.get(extension)!;
      const input = { files: [{ part: '', bytes }], whole: false, says, recipe: recipe(target), now: master, then: master };
      const { verdict, differences, proof } = await checkCopy(input, means);
      if (same) harmless++;
      else faults++;
      if ((verdict === 'in step') !== same)
        wrong.push(
          `${target} ${name}: ${verdict} ${differences
            .slice(0, 3)
            .map((one) => `${one.kind} ${one.what} ${one.amount} ${one.master} ${one.copy}`)
            .join('; ')} ${proof}`,
        );
    }
    expect(wrong).toEqual([]);
    expect(faults).toBeGreaterThan(atDepth(35, 300));
    expect(harmless).toBeGreaterThanOrEqual(atDepth(8, 75));
  },
);

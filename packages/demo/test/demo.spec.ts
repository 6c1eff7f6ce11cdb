import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Master, type Means, addFormats, checkCopy, derive, digest, revisionsOf } from '@inkwell-twin/core';
import { nodeFormats, pictureEngine, shippedFonts, solidEngine, chartEngine } from '@inkwell-twin/render';
import { type DemoMaster, afterMishap, demoMasters, recipeOfDemo, writeDemo } from '../src';

addFormats(nodeFormats);
const plain = { fonts: shippedFonts(), pictures: pictureEngine, solids: solidEngine, charts: chartEngine };
const demo = demoMasters(plain, [], 0.25);
const meansOf = ({ kept = [] }: DemoMaster): Means => ({
  ...plain,
  resource: (sha) => kept.find(({ resource }) => resource.id === sha)!.bytes,
});
let folders: string[] = [];
const folder = () => {
  const made = mkdtempSync(join(tmpdir(), 'inkwell-demo-'));
  folders.push(made);
  return made;
};
afterEach(() => {
  for (const one of folders) rmSync(one, { recursive: true, force: true });
  folders = [];
});

describe('the demo', () => {
  it('is made of masters that are as described, at every revision', async () => {
    for (const one of await demo) for (const { master } of revisionsOf(one)) expect(Master.safeParse(master).success).toBe(true);
  });

  it('shows a copy in each of these verdicts', async () => {
    const verdicts = new Set<string>();
    for (const one of await demo) {
      const means = meansOf(one);
      const all = [...revisionsOf(one)];
      const now = all.at(-1)!.master;
      for (const copy of one.copies) {
        const at = all[copy.rev - 1]!;
        const recipe = recipeOfDemo(now, copy);
        const { files, says, defects } = await derive(at, recipe, means);
        expect(defects).toEqual([]);
        const { bytes } = files[0]!;
        const left = copy.mishap ? await afterMishap(bytes, copy.mishap, means) : bytes;
        const input = { files: left && [{ part: '', bytes: left }], whole: !copy.mishap, says, recipe, now, then: at.master };
        verdicts.add((await checkCopy(input, means)).verdict);
      }
    }
    expect(verdicts).toEqual(new Set(['in step', 'behind', 'touched', 'crossed', 'gone']));
  });

  it('writes the same plain files each time', async () => {
    const sums: string[][][] = [];
    for (const out of [folder(), folder()])
      sums.push((await writeDemo(await demo, out, plain)).map((path) => [path.slice(out.length), digest(readFileSync(path))]));
    expect(sums[0]).toEqual(sums[1]);
    expect(sums[0]!.length).toBe(109);
  });

  it('writes over nothing', async () => {
    const out = folder();
    await writeDemo(await demo, out, plain);
    await expect(writeDemo(await demo, out, plain)).rejects.toThrow('exists already');
    expect(readdirSync(out).sort()).toEqual([
      'Hides',
      'Laboratory',
      'Shared pictures',
      'Small work',
      'boardwalk_waymarker',
      'coating_weathering_series',
      'fen_map_leaflet',
      'heron_at_the_north_pool',
      'lantern_fen_visitor_guide',
      'post_bracket',
    ]);
  });
});

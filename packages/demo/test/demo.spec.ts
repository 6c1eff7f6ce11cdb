import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Master, type Services, addFormats, checkCopy, derive, digest, revisionsOf } from '@inkwell-twin/core';
import { nodeFormats, pictureEngine, shippedFonts, solidEngine, chartEngine } from '@inkwell-twin/render';
import { atDepth } from '../../core/test/depth';
import { type DemoMaster, afterMishap, demoMasters, recipeOfDemo, writeDemo } from '../src';

addFormats(nodeFormats);
const plain = { fonts: shippedFonts(), pictures: pictureEngine, solids: solidEngine, charts: chartEngine };
const servicesOf = ({ kept = [] }: DemoMaster): Services => ({
  ...plain,
  resource: (sha) => kept.find(({ resource }) => resource.id === sha)!.bytes,
});
let demo: readonly DemoMaster[];
let folder: string;
let written: string[];
beforeAll(async () => {
  demo = await demoMasters(plain, [], 0.25);
  folder = mkdtempSync(join(tmpdir(), 'inkwell-demo-'));
  written = await writeDemo(demo, folder, plain);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('the demo', () => {
  it('is made of masters that are as described, at every revision', () => {
    for (const one of demo) for (const { master } of revisionsOf(one)) expect(Master.safeParse(master).success).toBe(true);
  });

  it('shows a copy in each of these verdicts, and is the same files each time', async () => {
    expect(written.length).toBe(109);
    const files = new Set(written.map((path) => digest(readFileSync(path))));
    const verdicts = new Set<string>();
    const every = atDepth(4, 1);
    let turn = 0;
    for (const one of demo) {
      const services = servicesOf(one);
      const all = [...revisionsOf(one)];
      const now = all.at(-1)!.master;
      for (const copy of one.copies) {
        if (!copy.mishap && turn++ % every) continue;
        const at = all[copy.rev - 1]!;
        const recipe = recipeOfDemo(now, copy);
        const { files: made, says, defects } = await derive(at, recipe, services);
        expect(defects).toEqual([]);
        const { bytes } = made[0]!;
        const left = copy.mishap ? await afterMishap(bytes, copy.mishap, services) : bytes;
        expect([copy.label, left === null || files.has(digest(left))]).toEqual([copy.label, true]);
        const input = {
          files: left && [{ part: '', bytes: left }],
          intact: !copy.mishap,
          says,
          recipe,
          current: now,
          baseline: at.master,
        };
        verdicts.add((await checkCopy(input, services)).verdict);
      }
    }
    expect(verdicts).toEqual(new Set(['in step', 'behind', 'touched', 'crossed', 'gone']));
  });

  it('writes over nothing', async () => {
    await expect(writeDemo(demo, folder, plain)).rejects.toThrow('exists already');
    expect(readdirSync(folder).sort()).toEqual([
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

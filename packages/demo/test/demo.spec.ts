import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Master, checkCopy, derive, digest, revisionsOf } from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { afterMishap, demoMasters, recipeOfDemo, writeDemo } from '../src';

const means = { fonts: shippedFonts() };
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
  it('is made of masters that are as described, at every revision', () => {
    for (const demo of demoMasters())
      for (const { master } of revisionsOf(demo)) expect(Master.safeParse(master).success).toBe(true);
  });

  it('shows a copy in each of these verdicts', async () => {
    const verdicts = new Set<string>();
    for (const demo of demoMasters()) {
      const all = [...revisionsOf(demo)];
      const now = all.at(-1)!.master;
      for (const copy of demo.copies) {
        const at = all[copy.rev - 1]!;
        const recipe = recipeOfDemo(now, copy);
        const { files, says, defects } = await derive(at, recipe, means);
        expect(defects).toEqual([]);
        const { bytes } = files[0]!;
        const left = copy.mishap ? afterMishap(bytes, copy.mishap) : bytes;
        const input = { files: left && [{ part: '', bytes: left }], whole: !copy.mishap, says, recipe, now, then: at.master };
        verdicts.add((await checkCopy(input, means)).verdict);
      }
    }
    expect(verdicts).toEqual(new Set(['in step', 'behind', 'touched', 'crossed', 'gone']));
  });

  it('writes the same plain files each time', async () => {
    const sums: string[][][] = [];
    for (const out of [folder(), folder()])
      sums.push((await writeDemo(demoMasters(), out, means)).map((path) => [path.slice(out.length), digest(readFileSync(path))]));
    expect(sums[0]).toEqual(sums[1]);
    expect(sums[0]!.length).toBe(12);
  });

  it('writes over nothing', async () => {
    const out = folder();
    await writeDemo(demoMasters(), out, means);
    await expect(writeDemo(demoMasters(), out, means)).rejects.toThrow('exists already');
    expect(readdirSync(out).sort()).toEqual(['boardwalk_waymarker', 'fen_map_leaflet']);
  });
});

import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Master, checkCopy, derive, digest, revisionsOf } from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { afterMishap, demoMasters, recipeOfDemo, writeDemo } from '../src';

const fonts = shippedFonts();
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

  it('shows a copy in each of these verdicts', () => {
    const verdicts = demoMasters().flatMap((demo) => {
      const all = [...revisionsOf(demo)];
      const now = all.at(-1)!.master;
      return demo.copies.map((copy) => {
        const at = all[copy.rev - 1]!;
        const recipe = recipeOfDemo(now, copy);
        const { bytes, says, defects } = derive(at, recipe, fonts);
        expect(defects).toEqual([]);
        const left = copy.mishap ? afterMishap(bytes, copy.mishap) : bytes;
        return checkCopy({ bytes: left, whole: !copy.mishap, says, recipe, now, then: at.master }, fonts).verdict;
      });
    });
    expect(new Set(verdicts)).toEqual(new Set(['in step', 'behind', 'touched', 'crossed', 'gone']));
  });

  it('writes the same plain files each time', () => {
    const sums = [folder(), folder()].map((out) => {
      const written = writeDemo(demoMasters(), out, fonts);
      return written.map((path) => [path.slice(out.length), digest(readFileSync(path))]);
    });
    expect(sums[0]).toEqual(sums[1]);
    expect(sums[0]!.length).toBe(12);
  });

  it('writes over nothing', () => {
    const out = folder();
    writeDemo(demoMasters(), out, fonts);
    expect(() => writeDemo(demoMasters(), out, fonts)).toThrow('exists already');
    expect(readdirSync(out).sort()).toEqual(['boardwalk_waymarker', 'fen_map_leaflet']);
  });
});

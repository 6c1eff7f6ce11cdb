import { addFormats, checkCopy, derive, recipeOf } from '@inkwell-twin/core';
import { nodeFormats } from '../src';
import { changedTexts } from './faults/prose';
import { guide, masterOf, services, time } from './prose';
import { atDepth } from '../../core/test/depth';
import { judgedBy } from '../../core/test/judged-by';

addFormats(nodeFormats);
const TARGETS = ['html', 'txt', 'odt', 'docx', 'epub'];

judgedBy('docx', 'odf', 'html5lib', 'lxml', 'PIL').it(
  'copies of a text, spoiled in every way, are found false, and re-written without harm they stay in step',
  async () => {
    const master = await masterOf(await guide());
    const recipe = (target: string) => recipeOf(target, {}, { of: 'texts', ids: [] });
    const made = new Map<string, { says: string; bytes: Uint8Array }>();
    for (const target of TARGETS) {
      const { files, says } = await derive({ master, rev: 1, time }, recipe(target), services);
      made.set(target, { says, bytes: files[0]!.bytes });
    }
    const copies = Object.fromEntries([...made].map(([target, { bytes }]) => [target, bytes]));
    const wrong: string[] = [];
    let [faults, harmless] = [0, 0];
    for (const { extension, name, harmless: same, bytes } of changedTexts(copies, 20_261_126, atDepth(1, 4))) {
      const input = { files: [{ part: '', bytes }], intact: false, says: made.get(extension)!.says, recipe: recipe(extension) };
      const { verdict, differences, proof } = await checkCopy({ ...input, current: master, baseline: master }, services);
      if (same) harmless++;
      else faults++;
      if ((verdict === 'in step') !== same)
        wrong.push(
          `${extension} ${name}: ${verdict} ${differences
            .slice(0, 3)
            .map((one) => `${one.kind} ${one.what} ${one.master} ${one.copy}`)
            .join('; ')} ${proof}`,
        );
    }
    if (process.env['COUNTS']) console.log(faults, harmless);
    expect(wrong).toEqual([]);
    expect(faults).toBeGreaterThan(atDepth(80, 500));
    expect(harmless).toBeGreaterThanOrEqual(atDepth(15, 75));
  },
);

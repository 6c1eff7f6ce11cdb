import { type Master, type Services, type Recipe, addFormats, checkCopy, derive, recipeOf } from '@inkwell-twin/core';
import { atDepth, isLong } from '../../core/test/depth';
import { changedCopies } from '../../core/test/faults/changed';
import { spoilt } from '../../core/test/faults/board';
import { seriesMaster } from '../../core/test/series';
import { nodeFormats } from '../src';
import { masterOf as solidMaster, services as solidMeans, plate } from './part';
import { guide, services as textMeans, masterOf as textMaster } from './prose';
import { masterOf as pictureMaster, servicesWith, sample } from './workshop';

addFormats(nodeFormats);
const time = '2026-11-26T10:00:00.000Z';

// Fewer triangles find the same parts, in a fraction of the time.
const COARSE = isLong ? {} : { chord: 0.2, angle: 30 };

interface True {
  readonly master: Master;
  readonly services: Services;
  readonly recipe: Recipe;
}

/** A true copy of each format that is not lines alone, by the extension that the script looks for. */
async function copies(): Promise<Record<string, True>> {
  const text = { master: await textMaster(await guide()), services: textMeans };
  const texts = { of: 'texts' as const, ids: [] };
  const solid = { master: solidMaster(plate()), services: solidMeans };
  const picture = await pictureMaster(sample(120, 80, false));
  const tables = { master: seriesMaster(), services: servicesWith(new Map()) };
  return {
    png: { ...picture, recipe: recipeOf('png', {}) },
    jpg: { ...picture, recipe: recipeOf('jpeg', {}) },
    webp: { ...picture, recipe: recipeOf('webp', {}) },
    tif: { ...picture, recipe: recipeOf('tiff', {}) },
    pdf: { master: spoilt, services: servicesWith(new Map()), recipe: recipeOf('pdf', {}) },
    xlsx: { ...tables, recipe: recipeOf('xlsx', {}) },
    json: { ...tables, recipe: recipeOf('json', {}) },
    docx: { ...text, recipe: recipeOf('docx', {}, texts) },
    odt: { ...text, recipe: recipeOf('odt', {}, texts) },
    epub: { ...text, recipe: recipeOf('epub', {}, texts) },
    stl: { ...solid, recipe: recipeOf('stl', COARSE) },
    obj: { ...solid, recipe: recipeOf('obj', COARSE) },
    '3mf': { ...solid, recipe: recipeOf('3mf', COARSE) },
    glb: { ...solid, recipe: recipeOf('gltf', COARSE) },
    step: { ...solid, recipe: recipeOf('step', {}) },
  };
}

it('parts that a reader never heard of are told, and parts that nothing can see alarm nobody', async () => {
  const all = await copies();
  const made = new Map<string, { says: string; bytes: Uint8Array }>();
  for (const [extension, { master, services, recipe }] of Object.entries(all)) {
    const { files, says } = await derive({ master, rev: 1, time }, recipe, services);
    made.set(extension, { says, bytes: files[0]!.bytes });
  }
  const bytes = Object.fromEntries([...made].map(([extension, one]) => [extension, one.bytes]));
  const wrong: string[] = [];
  const kinds = { faults: 0, harmless: 0 };
  for (const changed of changedCopies('packages/render/test/faults/unknown.py', bytes, 0, 1, 1)) {
    const { master, services, recipe } = all[changed.extension]!;
    const files = [{ part: '', bytes: changed.bytes }];
    const input = { files, intact: false, says: made.get(changed.extension)!.says, recipe, current: master, baseline: master };
    const { verdict, differences, proof } = await checkCopy(input, services);
    kinds[changed.harmless ? 'harmless' : 'faults']++;
    if ((verdict === 'in step') !== changed.harmless)
      wrong.push(
        `${changed.extension} ${changed.name}: ${verdict} ${differences
          .slice(0, 3)
          .map(({ kind, what, copy }) => `${kind} ${what} ${copy}`)
          .join('; ')} ${proof}`,
      );
  }
  if (process.env['COUNTS']) console.log(kinds);
  expect(wrong).toEqual([]);
  expect(kinds.faults).toBeGreaterThan(atDepth(130, 160));
  expect(kinds.harmless).toBeGreaterThan(atDepth(40, 65));
});

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Item, type Master, type PictureItem, codecOf } from '@inkwell-twin/core';
import { filled, rectangle, text } from '../../core/test/build';
import { atDepth, isLong } from '../../core/test/depth';
import { changedCopies } from '../../core/test/faults/changed';
import { judgedBy } from '../../core/test/judged-by';
import { spoilt } from '../../core/test/faults/board';
import { copyOf, masterOf, servicesWith, sample } from './workshop';

/** A drawing by another program, with gradients, masks, clips and patterns, and texts and a picture on it. */
async function laden() {
  const file = join(__dirname, '../../core/test/fixtures/painted.svg');
  const { master: drawn } = await (await codecOf('svg')).bringIn!(readFileSync(file), 'painted.svg');
  const { master: photo, services } = await masterOf(sample(120, 80));
  const { master: print, services: others } = await masterOf(sample(90, 60), 'print.jpg', 'jpeg');
  const [picture] = photo.boards[0]!.items as [PictureItem];
  const [jpeg] = print.boards[0]!.items as [PictureItem];
  const [board] = drawn.boards;
  const own = board!.items.find(({ kind }) => kind !== 'text')!.layer;
  const [width, height] = [board!.width, board!.height];
  const more: Item[] = [
    { ...picture, id: 'photo', layer: own, x: 0.5 * width, y: 0.1 * height },
    { ...jpeg, id: 'print', layer: own, x: 0.1 * width, y: 0.4 * height },
    text('one', 'Lantern Mere, to the hides', { layer: own, x: 6, y: 0.9 * height, size: 6 }),
    text('two', 'Łódka, 7 ½ AV To', { layer: own, x: 0.5 * width, y: 0.8 * height, size: 5, font: 'Source Serif 4 Bold Italic' }),
    text('apart', 'Sedge and rush', { layer: own, x: 8, y: 0.7 * height, size: 4, spacing: 0.1 }),
    rectangle('dashed', 10, 10, {
      layer: own,
      style: { ...filled('#d8e2c8'), stroke: '#22577a', strokeWidth: 0.6, dash: [2, 1] },
    }),
  ];
  const master: Master = {
    ...drawn,
    resources: [...drawn.resources, ...photo.resources, ...print.resources],
    boards: [{ ...board!, items: [...board!.items, ...more] }],
  };
  const known = (sha: string) => (print.resources.some(({ id }) => id === sha) ? others : services).resource!(sha);
  return { master, services: { ...services, resource: known } };
}

judgedBy('pikepdf', 'fontTools', 'PIL').it(
  'what others do to a page of a PDF is found, and what changes nothing that shows alarms nobody',
  async () => {
    const wrong: string[] = [];
    const kinds = { faults: new Set<string>(), harmless: new Set<string>() };
    const boards = [{ master: spoilt, services: servicesWith(new Map()) }, await laden()];
    for (const [which, { master, services }] of boards.entries()) {
      const made = await copyOf(master, services, 'pdf');
      expect(made.defects).toEqual([]);
      expect((await made.check(made.bytes)).verdict).toBe('in step');
      const seed = Number(process.env['INKWELL_SEED'] ?? 27);
      for (const { name, harmless, bytes } of changedCopies(
        'packages/render/test/faults/pages.py',
        { pdf: made.bytes },
        seed,
        atDepth(1, 2),
      )) {
        const done = kinds[harmless ? 'harmless' : 'faults'];
        // In the usual run each is done to one of the boards: to the last what the first has nothing for.
        if (!isLong && done.has(name)) continue;
        done.add(name);
        const { verdict, differences, proof } = await made.check(bytes);
        if ((verdict === 'in step') === harmless) continue;
        const found = differences.slice(0, 3).map(({ kind, what, copy }) => `${kind} ${what} ${copy}`);
        wrong.push(`board ${which}, ${name}: ${verdict} ${found.join('; ')} ${proof}`);
      }
    }
    expect(wrong).toEqual([]);
    expect(kinds.faults.size).toBeGreaterThan(60);
    expect(kinds.harmless.size).toBeGreaterThan(25);
  },
);

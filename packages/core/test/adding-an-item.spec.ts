import * as z from 'zod';
import { type ItemKind, addItemKind, fromPoints, itemKind } from '../src';
import { drawnBase, finite, positive } from '../src/document/schema-parts';

// docs/adding-an-item.md, in code: a toy kind of item, added before the first document is read.

const Star = z.object({
  kind: z.literal('star'),
  ...drawnBase,
  x: finite,
  y: finite,
  reach: positive,
  points: z.number().int().min(3).max(40),
});
type Star = z.infer<typeof Star>;
const star: ItemKind<Star> = {
  id: 'star',
  schema: Star,
  words: ({ points }) => `star of ${points}`,
  lists: [],
  outlines: ({ x, y, reach, points }) => [
    fromPoints(
      Array.from({ length: 2 * points }, (_, i) => {
        const [far, angle] = [i % 2 ? reach * 0.4 : reach, (i * Math.PI) / points];
        return [x + far * Math.cos(angle), y + far * Math.sin(angle)] as const;
      }),
      true,
    ),
  ],
  placed: ({ x, y }, dx, dy) => ({ x: x + dx, y: y + dy }),
  sized: false,
  fields: [{ attribute: 'points', label: 'Points', kind: 'number', least: 3 }],
  example: ({ number, pick }) => ({ x: number(0, 200), y: number(0, 100), reach: number(1, 30), points: pick([3, 5, 8]) }),
};
addItemKind(star);

import {
  type Item,
  Master,
  applyPatches,
  checkCopy,
  derive,
  drawnObjects,
  footprintHash,
  moveItems,
  nodeInWords,
  readPackage,
  recipeOf,
  setAttribute,
  writePackage,
} from '../src';
import fc from 'fast-check';
import { master as anyMaster } from './arbitrary';
import { board, lined, masterWith, rectangle } from './build';
import { services } from './flat';

describe('a kind of item that was added from outside', () => {
  const item = {
    kind: 'star',
    id: 's',
    layer: 'cut',
    style: lined('#14213a'),
    x: 50,
    y: 50,
    reach: 20,
    points: 5,
  } as unknown as Item;
  const master = masterWith([item, { kind: 'group', id: 'g', layer: 'cut', items: [{ ...item, id: 's2' }, rectangle('r')] }]);
  const time = '2026-11-20T10:00:00.000Z';

  it('is part of the document: read, kept, counted, called by its words', () => {
    expect(Master.safeParse(master).success).toBe(true);
    expect(Master.safeParse(masterWith([{ ...item, points: 2 } as unknown as Item])).success).toBe(false);
    const bytes = writePackage({ master, rev: 1, time, history: null, resources: new Map() });
    expect(readPackage(bytes).master).toEqual(master);
    expect(drawnObjects(master, board(master))).toBe(3);
    expect(nodeInWords(item)).toBe('star of 5');
    expect(itemKind(item).fields).toHaveLength(1);
  });
  it.each(['svg', 'dxf', 'hpgl'])('is derived into %s and checked there', async (target) => {
    const recipe = recipeOf(target, {});
    const made = await derive({ master, rev: 1, time }, recipe, services);
    expect(made.defects).toEqual([]);
    const now = applyPatches(master, setAttribute(master, 's2', 'points', 7).patches).master;
    expect(footprintHash(now, recipe)).not.toBe(footprintHash(master, recipe));
    const input = { files: made.files, intact: true, says: made.says, recipe, baseline: master };
    expect(await checkCopy({ ...input, current: now }, services)).toMatchObject({ verdict: 'behind' });
    expect(await checkCopy({ ...input, current: master }, services)).toMatchObject({ verdict: 'in step' });
  });
  it('is among what the laws are tried on', () => {
    const masters = fc.sample(anyMaster, { numRuns: 60, seed: 7 });
    const stars = masters.flatMap((one) => one.boards[0]!.items.filter(({ kind }) => kind === ('star' as string)));
    expect(stars.length).toBeGreaterThan(10);
    for (const one of masters) expect(Master.safeParse(one).success).toBe(true);
  });
  it('is moved by its own measures', () => {
    expect(moveItems(master, ['s'], 3, -2).patches).toEqual([
      { op: 'set', node: 's', attribute: 'x', value: 53 },
      { op: 'set', node: 's', attribute: 'y', value: 48 },
    ]);
  });
  it('is refused once documents were read', () =>
    expect(() => addItemKind({ ...star, id: 'late' })).toThrow('came after the first document was read'));
});

import fc from 'fast-check';
import {
  type Block,
  type Master,
  type Prose,
  addFormats,
  applyPatches,
  changesBetween,
  compareAs,
  derive,
  digestOf,
  footprintHash,
  nodeHash,
  project,
  readPackage,
  recipeOf,
  writePackage,
} from '@inkwell-twin/core';
import { layOutText, setBlocks, takeOffBoards } from '@inkwell-twin/core/texts';
import { nodeFormats } from '../src';
import { anyText, guide, masterOf, services, pictureIds, time } from './prose';
import { runs } from '../../core/test/depth';
import { formatsOf, lawRecipes } from '../../core/test/law-recipes';

addFormats(nodeFormats);
const ALL = { of: 'texts' as const, ids: [] };

/** What somebody may do to a text: each leaves the others' ids alone. */
const act = fc.record({
  how: fc.constantFrom('drop', 'double', 'move', 'reword', 'role', 'empty'),
  at: fc.nat(1000),
  to: fc.nat(1000),
  word: fc.constantFrom('fen', 'reed', 'otter & heron', '東'),
});
type Act = typeof act extends fc.Arbitrary<infer T> ? T : never;

function after(blocks: readonly Block[], { how, at, to, word }: Act, fresh: string): Block[] {
  const list = [...blocks];
  if (!list.length) return [{ id: fresh, block: 'words', role: 'body', spans: [{ text: word }] }];
  const i = at % list.length;
  const block = list[i]!;
  switch (how) {
    case 'drop':
      list.splice(i, 1);
      return list;
    case 'double':
      list.splice(i + 1, 0, { ...block, id: fresh });
      return list;
    case 'move':
      list.splice(to % list.length, 0, list.splice(i, 1)[0]!);
      return list;
    case 'reword':
      if (block.block === 'words') list[i] = { ...block, spans: [...block.spans, { text: ` ${word}` }] };
      return list;
    case 'role':
      if (block.block === 'words') list[i] = { ...block, role: to % 2 ? 'heading 2' : 'bullet' };
      return list;
    default:
      if (block.block === 'words') list[i] = { ...block, spans: [] };
      return list;
  }
}

describe('laws of texts', () => {
  it('any editing is a step that leads there and back, and the steps between two revisions are found again', async () => {
    const pictures = await pictureIds();
    await fc.assert(
      fc.asyncProperty(anyText(pictures), fc.array(act, { minLength: 1, maxLength: 8 }), async (any, acts) => {
        const text: Prose = { ...any, blocks: JSON.parse(JSON.stringify(any.blocks)) as Block[] };
        const start = await masterOf(text);
        let [now, count]: [Master, number] = [start, 0];
        const inverses = [];
        for (const one of acts) {
          const before = now.texts![0]!;
          const wanted = after(before.blocks, one, `fresh-${count++}`);
          const made = applyPatches(now, setBlocks(before, wanted).patches);
          expect(made.master.texts![0]!.blocks).toEqual(wanted);
          inverses.push(made.inverse);
          now = made.master;
        }
        const found = applyPatches(start, changesBetween(start, now)).master;
        expect(nodeHash(found)).toBe(nodeHash(now));
        for (const inverse of inverses.reverse()) now = applyPatches(now, inverse).master;
        expect(nodeHash(now)).toBe(nodeHash(start));
      }),
      { numRuns: runs(120) },
    );
  });

  it('a master with texts is written and read again as it was', async () => {
    const pictures = await pictureIds();
    await fc.assert(
      fc.asyncProperty(anyText(pictures), async (text) => {
        const master = await masterOf(JSON.parse(JSON.stringify(text)) as Prose);
        const resources = new Map(await Promise.all(pictures.map(async (id) => [id, await services.resource!(id)] as const)));
        const bytes = writePackage({
          master,
          rev: 1,
          time,
          history: { first: master, revisions: [{ rev: 1, time, author: 'A', message: '', patches: [] }] },
          resources,
        });
        expect(readPackage(bytes).master).toEqual(master);
      }),
      { numRuns: runs(40) },
    );
  });

  it('equal footprints are kept for equal masters, and every act but none changes that of a page', async () => {
    const text = await guide();
    const master = await masterOf(text);
    const recipe = recipeOf('html', {}, ALL);
    const again = await masterOf(JSON.parse(JSON.stringify(text)) as Prose);
    expect(footprintHash(again, recipe)).toBe(footprintHash(master, recipe));
    fc.assert(
      fc.property(act, (one) => {
        const wanted = after(text.blocks, one, 'fresh');
        const { patches } = setBlocks(text, wanted);
        const next = applyPatches(master, patches).master;
        expect(footprintHash(next, recipe) === footprintHash(master, recipe)).toBe(!patches.length);
      }),
      { numRuns: runs(200) },
    );
  });

  it('hold for every target that says texts: a copy reads back as what was said, and equal footprints mean equal copies', async () => {
    const recipes = lawRecipes('texts');
    expect(new Set(recipes.map(({ target }) => target))).toEqual(formatsOf('texts'));
    const pictures = await pictureIds();
    await fc.assert(
      fc.asyncProperty(anyText(pictures), act, async (any, one) => {
        const text: Prose = { ...any, blocks: JSON.parse(JSON.stringify(any.blocks)) as Block[] };
        const master = await masterOf(text);
        const { patches } = setBlocks(text, after(text.blocks, one, 'fresh'));
        const next = applyPatches(master, patches).master;
        for (const recipe of recipes) {
          const made = await derive({ master, rev: 1, time }, recipe, services);
          expect([recipe.target, made.defects]).toEqual([recipe.target, []]);
          const later = (await project(next, recipe, services)).projection;
          const isSame = footprintHash(next, recipe) === footprintHash(master, recipe);
          if (isSame) expect([recipe.target, digestOf(later)]).toEqual([recipe.target, digestOf(made.projection)]);
          const { differences } = compareAs(recipe, later, made.projection);
          if (differences.length) expect([recipe.target, isSame]).toEqual([recipe.target, false]);
          expect(compareAs(recipe, made.projection, made.projection).differences).toEqual([]);
        }
      }),
      { numRuns: runs(25) },
    );
  });

  it('laid out and taken off again, the document is what it was', async () => {
    const master = await masterOf(await guide());
    const text = master.texts![0]!;
    const laid = applyPatches(master, layOutText(master, text).patches).master;
    expect(laid.boards.length).toBe(1);
    expect(applyPatches(laid, takeOffBoards(laid, text).patches).master).toEqual(master);
    // A board that holds something else stays, with that.
    const [board] = laid.boards;
    const rectangle = {
      kind: 'rectangle',
      id: 'r',
      layer: null,
      style: { fill: '#17796a', stroke: null, strokeWidth: 0 },
      x: 0,
      y: 0,
      width: 5,
      height: 5,
      radius: 0,
    };
    const with_ = applyPatches(laid, [{ op: 'insert', parent: board!.id, list: 'items', after: null, node: rectangle }]).master;
    expect(applyPatches(with_, takeOffBoards(with_, text).patches).master.boards).toMatchObject([{ items: [{ id: 'r' }] }]);
  });
});

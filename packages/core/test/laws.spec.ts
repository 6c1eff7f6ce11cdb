import fc from 'fast-check';
import {
  type Difference,
  type Master,
  type Recipe,
  type CopyContent,
  kindDeclarations,
  addFormats,
  applyPatches,
  carriesOf,
  compareAs,
  derive,
  digestOf,
  entryAt,
  footprintHash,
  packDrawing,
  parseOptions,
  project,
  recipeOf,
  unpackDrawing,
} from '../src';
import { nodeFormats, pictureEngine } from '../../render/src';
import { services as flat } from './flat';
import { actsOn, richMaster } from './rich';
import { runs } from './depth';
import { formatsOf, lawRecipes } from './law-recipes';

const services = { ...flat, pictures: pictureEngine };
// Of the targets that need a library, those that say drawings.
addFormats(nodeFormats.filter(({ declaration }) => 'drawing' in declaration.carries(parseOptions(declaration, {}))));

/** Every target of boards under options that carry differently, of one board and, where it can, of all. */
const recipes = lawRecipes('boards', ['', 'b2']).filter((recipe) => !('raster' in carriesOf(recipe)));
const says = async (master: Master, recipe: Recipe) => (await project(master, recipe, services)).projection;

/** What a copy says, without the order of things where a target does not carry it. */
function unordered({ leaves }: CopyContent, recipe: Recipe): string[] {
  return leaves.flatMap((leaf, i) => {
    const { order } = carriesOf(recipe)[leaf.kind] as { order: string };
    if (order !== 'left out' || leaf.kind !== 'drawing') return [digestOf({ leaves: [leaf] })];
    const list = unpackDrawing(leaf.body as never);
    return list.entries
      .map((_, k) => {
        const only = { ...list, layers: [], entries: [entryAt(leaf.body as never, k)] };
        return `${i} ${digestOf({ leaves: [{ ...leaf, body: packDrawing(only) }] })}`;
      })
      .sort();
  });
}

type Entry = ReturnType<typeof entryAt>;
/** Of a straight line that is only filled there is nothing to see. */
const hasArea = (entry: Entry): boolean =>
  entry.kind === 'text' || entry.outlines.some(({ segments }) => segments.length > 1 || segments[0]?.kind !== 'line');
const isSeen = (entry: Entry): boolean => (entry.style.fill !== null && hasArea(entry)) || entry.style.stroke !== null;
const entriesOf = ({ leaves }: CopyContent): Entry[] =>
  leaves.flatMap(({ kind, body }) => (kind === 'drawing' ? unpackDrawing(body as never).entries : []));
const holdsUnseen = (says: CopyContent): boolean => !entriesOf(says).every(isSeen);
/** What is drawn with a colour. */
const seen = (says: CopyContent): string => JSON.stringify(entriesOf(says).filter(isSeen));

describe('for every target and any master', () => {
  it('that says boards there is a recipe in its folder', () => {
    // What does not fit its machine is refused: such targets have laws of their own (machines-laws.spec.ts).
    const ofMachines = (id: string): boolean => Boolean(recipeOf(id, {}).options['machine']);
    const drawn = [...formatsOf('boards')].filter((id) => !('raster' in carriesOf(recipeOf(id, {}))) && !ofMachines(id));
    expect(new Set(recipes.map(({ target }) => target))).toEqual(new Set(drawn));
  });

  it('the law of footprints holds: where it is the same, the copy would say the same', async () => {
    await fc.assert(
      fc.asyncProperty(richMaster, fc.nat(1000), fc.nat(1000), async (master, which, pick) => {
        const acts = actsOn(master, pick);
        const { patch } = acts[which % acts.length]!;
        const now = applyPatches(master, [patch]).master;
        for (const recipe of recipes)
          if (footprintHash(master, recipe) === footprintHash(now, recipe))
            expect(unordered(await says(now, recipe), recipe)).toEqual(unordered(await says(master, recipe), recipe));
      }),
      { numRuns: runs(120) },
    );
  });

  it('its mirror holds: what is carried and changed is in the footprint, and found by the check', async () => {
    const met = new Map<string, Set<string>>();
    await fc.assert(
      fc.asyncProperty(richMaster, fc.nat(1000), fc.nat(1000), async (master, which, pick) => {
        const acts = actsOn(master, pick);
        const { feature, patch } = acts[which % acts.length]!;
        const now = applyPatches(master, [patch]).master;
        for (const recipe of recipes) {
          const [before, after] = [await says(master, recipe), await says(now, recipe)];
          if (JSON.stringify(unordered(before, recipe)) === JSON.stringify(unordered(after, recipe))) continue;
          const label = `${feature} in ${recipe.target}: ${JSON.stringify(patch)}`;
          expect([label, footprintHash(master, recipe) === footprintHash(now, recipe)]).toEqual([label, false]);
          const { differences } = compareAs(recipe, after, before);
          // What has no colour left, because its fill is left out, nobody sees move.
          const unseen = differences.length === 0 && holdsUnseen(before) && seen(before) === seen(after);
          expect([label, differences.length > 0 || unseen]).toEqual([label, true]);
          const kinds = met.get(feature) ?? new Set();
          for (const { kind } of differences) kinds.add(kind);
          met.set(feature, kinds);
        }
      }),
      { numRuns: runs(150) },
    );
    // The rows say by which differences each feature is found; at least one of them turned up for each that was met.
    for (const [feature, kinds] of met) {
      const found = kindDeclarations().flatMap(({ features }) => features[feature]?.found ?? []);
      if (found.length) expect([feature, found.some((kind) => kinds.has(kind))]).toEqual([feature, true]);
    }
  });

  it('a copy reads back as what was said, and nothing differs from itself', async () => {
    await fc.assert(
      fc.asyncProperty(richMaster, async (master) => {
        for (const recipe of recipes) {
          const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, services);
          expect([recipe.target, recipe.scope, made.defects]).toEqual([recipe.target, recipe.scope, []]);
          const { differences, outlines, equal } = compareAs(recipe, made.projection, made.projection);
          expect([differences, equal]).toEqual([[] as Difference[], outlines]);
        }
      }),
      { numRuns: runs(40) },
    );
  });
});

import fc from 'fast-check';
import {
  type Difference,
  type Master,
  type Patch,
  type Recipe,
  kindDeclaration,
  applyPatches,
  changesBetween,
  compareAs,
  derive,
  digestOf,
  footprintHash,
  project,
} from '../src';
import { services } from './flat';
import { seriesMaster, seriesTable } from './series';
import { runs } from './depth';
import { formatsOf, lawRecipes } from './law-recipes';

/** Every target of tables under options that carry differently. */
const recipes = lawRecipes('tables');

const words = fc.oneof(
  fc.string({ minLength: 1, maxLength: 12 }).filter((text) => text.trim() === text && text !== ''),
  fc.constantFrom(
    '=1+1',
    '＝1+1',
    '＋SUM(A1)',
    '－2',
    '＠now',
    '+5',
    '-x',
    '@me',
    "'quoted",
    "'=also",
    'a,b;c\td',
    'two\nlines',
    'a\r\nb',
    'a\rb',
    '"so"',
    '<b>&amp;',
    '007',
    '1,5',
    '_x000D_',
    'größer ≥ 5',
    'true',
    '12.50',
  ),
);
const number = fc.oneof(
  fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e12, max: 1e12 }),
  fc.integer({ min: -1000, max: 1000 }),
  fc.constantFrom(0, 0.1, 1e-9, 1e15, -0.5),
);

/** What stands in a cell of another kind. */
const odd = fc.constantFrom('n/a', 'about 5', '=bad', '-', '5 or 6');

/** A master with two tables of odd words and numbers. */
const tables = fc
  .array(
    fc.record({
      note: fc.option(words),
      before: fc.option(fc.oneof({ weight: 5, arbitrary: number }, { weight: 1, arbitrary: odd })),
      after: fc.option(number),
      cracked: fc.option(fc.oneof({ weight: 5, arbitrary: fc.boolean() }, { weight: 1, arbitrary: odd })),
      day: fc.option(
        fc.oneof(
          {
            weight: 5,
            arbitrary: fc.constantFrom('2026-02-28', '1899-12-31', '1900-02-28', '1900-03-01', '2026-11-26T07:45', '9999-12-31'),
          },
          { weight: 1, arbitrary: odd },
        ),
      ),
    }),
    { minLength: 1, maxLength: 9 },
  )
  .map((rows): Master => {
    const table = seriesTable(rows.length);
    const filled = rows.map(({ note, before, after, cracked, day }, i) => {
      const cells = { c4: before, c5: after, c6: cracked, c9: note, ...(day === null ? {} : { c3: day }) };
      const kept = Object.entries({ ...table.rows[i]!.cells, ...cells }).filter(
        ([, cell]) => cell !== null && cell !== undefined,
      );
      return { id: `r${i + 1}`, cells: Object.fromEntries(kept) as Record<string, string | number | boolean> };
    });
    const second = { ...seriesTable(3), id: 't2', name: 'Second series: a name of more than thirty-one letters [x]' };
    const again = {
      ...second,
      columns: second.columns.map((one) => ({ ...one, id: `t2${one.id}` })),
      key: 't2c1',
      rows: second.rows.map(({ id, cells }) => ({
        id: `t2${id}`,
        cells: Object.fromEntries(Object.entries(cells).map(([column, cell]) => [`t2${column}`, cell])),
      })),
      summaries: [],
    };
    return seriesMaster({ ...table, rows: filled }, { tables: [{ ...table, rows: filled }, again] });
  });

const set = (node: string, attribute: string, value: unknown): Patch => ({ op: 'set', node, attribute, value });
/** One change of each kind. */
const acts: readonly { feature: string; patch: Patch }[] = [
  { feature: 'values', patch: set('r1', 'cells.c4', 12.25) },
  { feature: 'values', patch: set('r1', 'cells.c9', 'another word') },
  { feature: 'values', patch: set('r1', 'cells.c1', 'another key') },
  { feature: 'values', patch: set('r1', 'cells.c3', '2026-11-26') },
  { feature: 'values', patch: set('c5', 'name', 'Gloss now') },
  {
    feature: 'values',
    patch: { op: 'insert', parent: 't1', list: 'rows', after: null, node: { id: 'rx', cells: { c1: 'P-900', c4: 1 } } },
  },
  { feature: 'values', patch: { op: 'remove', parent: 't1', list: 'rows', node: 'r1' } },
  { feature: 'values', patch: { op: 'remove', parent: 't1', list: 'columns', node: 'c9' } },
  { feature: 'values', patch: set('r1', 'cells.c2', undefined) },
  { feature: 'types', patch: set('c2', 'type', 'text') },
  { feature: 'units', patch: set('c4', 'unit', 'mm') },
  { feature: 'units', patch: set('s1', 'unit', 'share') },
  { feature: 'shown digits', patch: set('c4', 'decimals', 3) },
  { feature: 'formulas', patch: set('c7', 'formula', 'Gloss_before - Gloss_after') },
  { feature: 'summaries', patch: set('s1', 'formula', 'median(Loss)') },
  { feature: 'summaries', patch: { op: 'remove', parent: 't1', list: 'summaries', node: 's3' } },
  { feature: 'names', patch: set('t2', 'name', 'Third') },
];

const says = async (master: Master, recipe: Recipe) => (await project(master, recipe, services)).projection;

describe('for every target and any tables', () => {
  it('that says tables there is a recipe in its folder', () => {
    expect(new Set(recipes.map(({ target }) => target))).toEqual(formatsOf('tables'));
  });

  it('a copy reads back as what was said, and nothing differs from itself', async () => {
    await fc.assert(
      fc.asyncProperty(tables, async (master) => {
        for (const recipe of recipes) {
          const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, services);
          expect([recipe.target, recipe.options, made.defects]).toEqual([recipe.target, recipe.options, []]);
          const again = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, services);
          expect(again.files.map(({ bytes }) => Buffer.from(bytes).toString('latin1'))).toEqual(
            made.files.map(({ bytes }) => Buffer.from(bytes).toString('latin1')),
          );
          const { differences, outlines, equal } = compareAs(recipe, made.projection, made.projection);
          expect([differences, equal]).toEqual([[] as Difference[], outlines]);
        }
      }),
      { numRuns: runs(60) },
    );
  });

  it('the law of footprints holds, and what is carried and changed is found', async () => {
    const met = new Map<string, Set<string>>();
    await fc.assert(
      fc.asyncProperty(tables, fc.constantFrom(...acts), async (master, { feature, patch }) => {
        const now = applyPatches(master, [patch]).master;
        for (const recipe of recipes) {
          const [before, after] = [await says(master, recipe), await says(now, recipe)];
          const label = `${feature} in ${recipe.target} ${JSON.stringify(recipe.options)}: ${JSON.stringify(patch)}`;
          const same = footprintHash(master, recipe) === footprintHash(now, recipe);
          if (same) expect([label, digestOf(after)]).toEqual([label, digestOf(before)]);
          const { differences } = compareAs(recipe, after, before);
          if (differences.length) expect([label, same]).toEqual([label, false]);
          const kinds = met.get(feature) ?? new Set();
          for (const { kind } of differences) kinds.add(kind);
          met.set(feature, kinds);
        }
      }),
      { numRuns: runs(150) },
    );
    for (const [feature, kinds] of met) {
      const found = kindDeclaration('grid')!.features[feature]!.found;
      expect([feature, found.some((kind) => kinds.has(kind))]).toEqual([feature, true]);
    }
  });

  it('patches between two states lead from one to the other, and back', () =>
    fc.assert(
      fc.property(tables, fc.array(fc.constantFrom(...acts), { maxLength: 4 }), (master, some) => {
        const patches = [...new Set(some)]
          .map(({ patch }) => patch)
          .filter(
            (patch) =>
              !(patch.op === 'set' && patch.node === 'r1') ||
              !some.some((one) => one.patch.op === 'remove' && one.patch.node === 'r1'),
          );
        const { master: now, inverse } = applyPatches(master, patches);
        expect(applyPatches(now, inverse).master).toEqual(master);
        expect(applyPatches(master, changesBetween(master, now)).master).toEqual(now);
      }),
    ));
});

import { type Difference, type Master, type PartList, type Services, PART_LISTS, foresee, recipeOf } from '@inkwell-twin/core';
import { filled, masterWith, rectangle, text } from '../../core/test/build';
import { lawRecipes } from '../../core/test/law-recipes';
import { seriesTable } from '../../core/test/series';
import { plate } from './part';
import { solidEngine } from '../src';
import { servicesWith } from './workshop';

const services: Services = { ...servicesWith(new Map()), solids: solidEngine };
const time = '2026-12-01T09:00:00.000Z';

const seen = (master: Master, target: string, options: Record<string, unknown> = {}) =>
  foresee({ master, rev: 1, time }, recipeOf(target, options), services);
const kinds = ({ differences }: { readonly differences: readonly Difference[] }): string[] =>
  [...new Set(differences.map(({ kind }) => kind))].sort();

const drawn = (): Master =>
  masterWith([
    rectangle('plate', 10, 10, { style: filled('#c23b22') }),
    rectangle('faded', 60, 10, {
      style: {
        ...filled('#17796a'),
        fill: {
          kind: 'linear',
          within: 'box',
          at: [1, 0, 0, 1, 0, 0],
          stops: [
            { offset: 0, colour: '#17796a' },
            { offset: 1, colour: '#f7f0e2' },
          ],
        },
      },
    }),
    text('title', 'Sedge gate'),
  ]);

describe('A copy as it will be', () => {
  test('says where its bytes are otherwise than the master, whatever the recipe allows', async () => {
    const kept = await seen(drawn(), 'svg');
    expect(kept.comparison.differences).toEqual([]);
    expect(kept.comparison.outlines).toBeGreaterThan(0);

    const outlined = await seen(drawn(), 'svg', { text: 'outlines' });
    expect(kinds(outlined.comparison)).toContain('missing');
    expect(outlined.comparison.differences.some(({ what }) => what.includes('Sedge gate'))).toBe(true);

    const machine = await seen(drawn(), 'dxf', { version: 'R12' });
    const lost = machine.comparison.differences.filter(({ kind }) => kind.includes('recoloured') || kind.includes('paint'));
    expect(lost.length).toBeGreaterThan(0);
  });

  test('shows what pixels lose, the master’s side without it', async () => {
    const { comparison, sides } = await seen(drawn(), 'jpeg', { ppi: 40, quality: 30 });
    expect([sides.master, sides.copy].map(({ leaves }) => leaves.map(({ kind }) => kind))).toEqual([['raster'], ['raster']]);
    expect(kinds(comparison)).toContain('picture changed');
    const solid = drawn();
    const white = { ...solid, boards: solid.boards.map((board) => ({ ...board, background: '#ffffff' })) };
    expect(kinds((await seen(white, 'jpeg', { ppi: 40, quality: 30 })).comparison)).not.toContain('picture changed');
    expect((await seen(white, 'png', { ppi: 40 })).comparison.differences).toEqual([]);
  });

  test('is there for every format, of whatever it says', async () => {
    const master: Master = {
      ...drawn(),
      tables: [seriesTable(6)],
      solids: [plate()],
      texts: [
        {
          id: 'guide',
          name: 'Guide',
          language: 'en',
          blocks: [{ id: 'b1', block: 'words', role: 'heading 1', spans: [{ text: 'Herons nest here.' }] }],
        },
      ],
    };
    const tried = new Set<string>();
    for (const list of PART_LISTS as readonly PartList[])
      for (const recipe of lawRecipes(list)) {
        if (tried.has(`${list} ${recipe.target}`)) continue;
        tried.add(`${list} ${recipe.target}`);
        // One format of solids stands for all: each of them takes seconds.
        if (list === 'solids' && recipe.target !== 'stl') continue;
        const { comparison, sides } = await foresee({ master, rev: 1, time }, recipe, services);
        expect([recipe.target, sides.copy.leaves.length]).toEqual([recipe.target, sides.master.leaves.length]);
        for (const { what, kind } of comparison.differences) expect([recipe.target, what, kind].every(Boolean)).toBe(true);
      }
    expect(tried.size).toBeGreaterThan(20);
  });
});

import fc from 'fast-check';
import {
  type Item,
  type Master,
  type Services,
  type Patch,
  type Prose,
  addFormats,
  applyPatches,
  checkCopy,
  codecOf,
  derive,
  flowOf,
  footprintHash,
  placedMaster,
  planChart,
  recipeOf,
} from '@inkwell-twin/core';
import { seriesMaster } from '../../core/test/series';
import { chartEngine, nodeFormats, solidEngine } from '../src';
import { chartSvg } from '../src/engines/charts';
import { plate } from './part';
import { anyText, guide, masterOf as textMaster, services as textMeans, pictureIds, time } from './prose';
import { atDepth, runs } from '../../core/test/depth';

addFormats(nodeFormats);
const services: Services = { ...textMeans, solids: solidEngine, charts: chartEngine };
const layer = 'layer-1';
const at = { layer, x: 10, y: 10 };
const frame = (id: string, width: number, rest: object = {}): Item =>
  ({ kind: 'text-frame', id, ...at, text: 'guide', width, height: 180, size: 3.5, ...rest }) as Item;
const board = (id: string, items: readonly Item[]) => ({
  id,
  name: id,
  width: 297,
  height: 210,
  background: null,
  items: [...items],
});
const series = seriesMaster();
const table = series.tables![0]!;
const numbers = table.columns.filter(({ type }) => type === 'number');

/** One of each on boards of their own: a text in frames of three widths, a table, two charts, four views. */
async function everything(): Promise<Master> {
  const own = await guide();
  // Ids are those of the whole document.
  const text = await textMaster({ ...own, blocks: own.blocks.map((block) => ({ ...block, id: `g-${block.id}` })) });
  const solid = plate();
  const view = (id: string, name: string, rest: object) =>
    ({ kind: 'solid-view', id, layer, solid: solid.id, view: name, scale: 1, size: 3, x: 80, y: 100, ...rest }) as Item;
  const chart = (id: string, rest: object) =>
    ({ kind: 'chart-frame', id, ...at, table: table.id, form: 'lines', width: 120, height: 80, size: 3, ...rest }) as Item;
  return {
    ...text,
    layers: [{ id: layer, name: 'Print', colour: '#14213a', visible: true, locked: false, process: 'print' }],
    tables: series.tables!,
    solids: [solid],
    boards: [
      board('text', [frame('f1', 80), frame('f2', 50, { x: 100 }), frame('f3', 110, { x: 160, height: 80 })]),
      board('data', [
        { kind: 'table-frame', id: 't1', ...at, table: table.id, width: 90, height: 120, size: 3 } as Item,
        chart('chart-1', { x: 110 }),
        chart('chart-2', { x: 110, y: 100, form: 'bars', take: 'each' }),
      ]),
      board('part', [
        view('v1', 'top', { dimensions: 'overall and holes' }),
        view('v2', 'isometric', { x: 200, hidden: 'left out' }),
        view('v3', 'front', { y: 30, dimensions: 'overall' }),
      ]),
    ],
  };
}
/** In pixels as fine as tells letters apart; finer in the long tests. */
const FINE = { png: { ppi: atDepth(90, 300) } } as Readonly<Record<string, Readonly<Record<string, unknown>>>>;
const recipe = (target: string, name: string) => recipeOf(target, FINE[target] ?? {}, { of: 'boards', ids: [name] });
const wordsOn = async (master: Master, name: string): Promise<string[]> => {
  const { projection } = await derive({ master, rev: 1, time }, recipe('svg', name), services);
  return projection.leaves.flatMap(({ body }) => {
    const drawing = body as { texts: { text: string }[] };
    return drawing.texts.map(({ text }) => text);
  });
};

describe('what boards show of texts, tables and solids', () => {
  it.each(['svg', 'pdf', 'dxf', 'png'])('arrives in %s as it stands there, the same each time', async (target) => {
    const master = await everything();
    for (const name of ['text', 'data', 'part']) {
      const [made, again] = [
        await derive({ master, rev: 1, time }, recipe(target, name), services),
        await derive({ master, rev: 1, time }, recipe(target, name), services),
      ];
      expect([name, made.defects]).toEqual([name, []]);
      expect(Buffer.compare(made.files[0]!.bytes, again.files[0]!.bytes)).toBe(0);
      const input = {
        files: made.files,
        intact: true,
        says: made.says,
        recipe: recipe(target, name),
        current: master,
        baseline: master,
      };
      expect((await checkCopy(input, services, true)).verdict).toBe('in step');
    }
  });

  it('follows what it shows, and nothing else', async () => {
    const master = await everything();
    const cell = `cells.${numbers.find(({ formula }) => formula === undefined)!.id}`;
    const changes: [Patch, string][] = [
      [{ op: 'set', node: 'g-p3', attribute: 'spans', value: [{ text: 'Reworded.' }] }, 'text'],
      [{ op: 'set', node: 'f1', attribute: 'width', value: 70 }, 'text'],
      [{ op: 'set', node: table.rows[1]!.id, attribute: cell, value: 7 }, 'data'],
      [{ op: 'set', node: 'p1', attribute: 'value', value: 64 }, 'part'],
    ];
    for (const [patch, board] of changes) {
      const next = applyPatches(master, [patch]).master;
      for (const name of ['text', 'data', 'part']) {
        const now = footprintHash(next, recipe('pdf', name)) !== footprintHash(master, recipe('pdf', name));
        expect([patch, name, now]).toEqual([patch, name, name === board]);
      }
    }
    // And the proof agrees: only the drawing of the part says something else.
    const made = await derive({ master, rev: 1, time }, recipe('pdf', 'part'), services);
    const now = applyPatches(master, [changes[3]![0]]).master;
    const input = {
      files: made.files,
      intact: true,
      says: made.says,
      recipe: recipe('pdf', 'part'),
      current: now,
      baseline: master,
    };
    expect(await checkCopy(input, services)).toMatchObject({ verdict: 'behind' });
  });

  it('states sizes and holes of a solid as the kernel has them', async () => {
    const words = await wordsOn(await everything(), 'part');
    // The plate is 60 mm wide; four holes of four diameters are seen from above.
    expect(words).toEqual(expect.arrayContaining(['60', 'Ø4', 'Ø5', 'Ø6.5', 'Ø7']));
  });

  it('draws a chart of what the table says: means by default, each row where it is asked for', async () => {
    const chart = {
      kind: 'chart-frame',
      id: 'c',
      ...at,
      table: table.id,
      form: 'points',
      width: 90,
      height: 60,
      size: 3,
    } as never;
    const plan = planChart({ ...(chart as object), up: numbers[0]!.id } as never, series);
    expect(plan.series[0]!.points.length).toBeGreaterThan(1);
    expect(() => planChart({ ...(chart as object), up: 'gone' } as never, series)).toThrow(/has no more/);
    expect(await chartSvg(plan)).toContain('<svg');
  });

  it('is read by our own reader without a rest', async () => {
    const plan = planChart((await everything()).boards[1]!.items[1] as never, series);
    const read = await (
      await codecOf('svg')
    ).read([{ part: '', bytes: new TextEncoder().encode(await chartSvg(plan)) }], {}, services);
    expect(read.notUnderstood.filter(({ shows }) => shows)).toEqual([]);
  });

  it('is nothing where its part is gone, and says why it can’t be drawn', async () => {
    const master = await everything();
    const gone = applyPatches(master, [{ op: 'remove', parent: master.id, list: 'solids', node: 'plate' }]).master;
    const { defects, projection } = await derive({ master: gone, rev: 1, time }, recipe('svg', 'part'), services);
    expect([defects, (projection.leaves[0]!.body as { count?: number }).count ?? 0]).toEqual([[], expect.any(Number)]);
    const wrong = applyPatches(master, [{ op: 'set', node: 'chart-1', attribute: 'up', value: 'gone' }]).master;
    await expect(derive({ master: wrong, rev: 1, time }, recipe('svg', 'data'), services)).rejects.toThrow(/column/);
    await expect(Promise.resolve(placedMaster(await everything(), textMeans))).rejects.toThrow(/can’t be drawn here/);
  });

  it('loses no word of a text, whatever the frames that it runs through', async () => {
    const pictures = await pictureIds();
    const plain = (words: string) => words.replace(/[\s\u00a0]+/g, '');
    await fc.assert(
      fc.asyncProperty(
        anyText(pictures),
        fc.array(fc.tuple(fc.integer({ min: 30, max: 150 }), fc.integer({ min: 20, max: 90 })), { minLength: 1, maxLength: 4 }),
        async (any, sizes) => {
          const text: Prose = { ...any, blocks: any.blocks.filter(({ block }) => block === 'words') };
          const items = sizes.map(([width, height], i) => frame(`f${i}`, width, { text: 'any', height }));
          const master = { ...(await textMaster(text)), boards: [board('b', items)] };
          const { filled, left } = flowOf(master, text, services, true);
          expect(left).toBe(0);
          const drawn = filled
            .flatMap(({ items: list }) => list.flatMap((item) => (item.kind === 'text' ? [item.text] : [])))
            .join('');
          for (const block of text.blocks)
            if (block.block === 'words')
              for (const span of block.spans)
                if ('text' in span) for (const word of span.text.split(/\s+/)) expect(plain(drawn)).toContain(plain(word));
        },
      ),
      { numRuns: runs(60) },
    );
  });
});

import {
  type CopyFile,
  type Master,
  type Recipe,
  applyPatches,
  checkCopy,
  codecOf,
  derive,
  differenceInWords,
  moveItems,
  recipeOf,
} from '../src';
import { board, masterWith, rectangle, text } from './build';
import { services } from './flat';

const time = '2026-11-20T10:00:00.000Z';
const boards = [
  board(masterWith([rectangle('a'), text('t', 'Sedge')])),
  { ...board(masterWith([rectangle('b', 30, 5)])), id: 'b2', name: 'Back & “side”', width: 90, background: '#f7f0e2' },
  { ...board(masterWith([rectangle('c', 3, 50)])), id: 'b3', name: 'Spine' },
];
const master: Master = { ...masterWith([]), boards };
const all = { of: 'master' as const };

/** What a check finds of a copy of three boards whose files became others, against a master that became another. */
async function found(recipe: Recipe, now: Master, spoil: (files: readonly CopyFile[]) => readonly CopyFile[] = (files) => files) {
  const made = await derive({ master, rev: 1, time }, recipe, services);
  expect(made.defects).toEqual([]);
  const files = spoil(made.files);
  return checkCopy({ files, intact: files === made.files, says: made.says, recipe, current: now, baseline: master }, services);
}
const words = async (...args: Parameters<typeof found>) => (await found(...args)).differences.map(differenceInWords);

const ways: [string, Recipe][] = [
  ['one SVG file', recipeOf('svg', {}, all)],
  ['an SVG file each', recipeOf('svg', { sheets: 'a file each' }, all)],
  ['DXF blocks, R12', recipeOf('dxf', { version: 'R12' }, all)],
  ['native version 2', recipeOf('native', {}, all)],
  ['native version 1', recipeOf('native', { version: 'native 1' }, all)],
  ['DXF blocks, 2000', recipeOf('dxf', { version: '2000' }, all)],
];

describe.each(ways)('several boards as %s', (_, recipe) => {
  it('are in step, sheet by sheet', async () => {
    const { projection } = await derive({ master, rev: 1, time }, recipe, services);
    expect(projection.leaves).toHaveLength(3);
    expect(await found(recipe, master, (files) => [...files])).toMatchObject({ verdict: 'in step', matches: true });
  });
  it('are behind where one board changed, and the difference says on which sheet', async () => {
    const now = { ...master, boards: [boards[0]!, { ...boards[1]!, items: [rectangle('b', 35, 5)] }, boards[2]!] };
    const result = await found(recipe, now);
    expect(result.verdict).toBe('behind');
    expect(result.differences).toMatchObject([{ kind: 'moved', leaf: 1, amount: expect.closeTo(5) }]);
  });
  it('are compared as sheets: one that came, went, changed its name or its place is a difference', async () => {
    const fourth = { ...board(masterWith([rectangle('d', 66, 66)])), id: 'b4', name: 'Flap' };
    expect(await words(recipe, { ...master, boards: [...boards, fourth] })).toEqual([
      expect.stringMatching(/^flap: sheet missing$/i),
    ]);
    expect(await words(recipe, { ...master, boards: boards.slice(0, 2) })).toEqual([
      expect.stringMatching(/^spine: sheet added$/i),
    ]);
    const renamed = [boards[0]!, boards[1]!, { ...boards[2]!, name: 'Edge' }];
    expect(await words(recipe, { ...master, boards: renamed })).toEqual([expect.stringMatching(/^edge: sheet renamed/i)]);
    const turned = [boards[1]!, boards[0]!, boards[2]!];
    expect(await words(recipe, { ...master, boards: turned })).toEqual([expect.stringMatching(/sheet re-ordered/)]);
  });
});

describe('files of several sheets', () => {
  it('that lost one lack a sheet', async () => {
    const recipe = recipeOf('svg', { sheets: 'a file each' }, all);
    const result = await found(recipe, master, (files) => files.slice(0, 2));
    expect(result).toMatchObject({ verdict: 'touched', intact: false });
    expect(result.differences.map(differenceInWords)).toEqual(['Spine: sheet missing']);
    const alone = await found(recipe, master, (files) => files.slice(0, 1));
    expect(alone.differences.map(differenceInWords)).toEqual(['Back & “side”: sheet missing', 'Spine: sheet missing']);
  });
  it('are named after the part that they are, the first after none', async () => {
    const { files } = await derive({ master, rev: 1, time }, recipeOf('svg', { sheets: 'a file each' }, all), services);
    expect(files.map(({ part }) => part)).toEqual(['', '2', '3']);
  });
  it('become a master of as many boards when they come in', async () => {
    const { files } = await derive({ master, rev: 1, time }, recipeOf('svg', {}, all), services);
    const back = await (await codecOf('svg')).bringIn!(files[0]!.bytes, 'three.svg');
    expect(back.master.boards.map(({ name, width, background }) => [name, width, background])).toEqual(
      boards.map(({ name, width, background }) => [name, width, background]),
    );
  });
  it('are refused in words where a target says one board', async () => {
    await expect(derive({ master, rev: 1, time }, recipeOf('hpgl', {}, all), services)).rejects.toThrow(
      'Cut file (HP-GL) says one board, and this asks for 3.',
    );
    expect((await derive({ master, rev: 1, time }, recipeOf('hpgl', {}, 'Spine'), services)).defects).toEqual([]);
  });
  it('take only the objects of a scope that names some, groups opened', async () => {
    const recipe = recipeOf('svg', {}, { of: 'boards', ids: ['b1'], objects: ['t'] });
    const { files, report } = await derive({ master, rev: 1, time }, recipe, services);
    expect(report.objects).toBe(1);
    expect(new TextDecoder().decode(files[0]!.bytes)).not.toContain('<path');
  });
  it('are as large as the objects that a scope names, where it asks for that, lines and all', async () => {
    const plate = rectangle('plate', 30, 40, { width: 20, height: 10, style: { fill: null, stroke: '#14213a', strokeWidth: 2 } });
    const start = masterWith([
      rectangle('other', 80, 5),
      { kind: 'group', id: 'pair', layer: 'cut', items: [plate, rectangle('away', 90, 90)] },
    ]);
    const recipe = recipeOf('svg', {}, { of: 'boards', ids: ['b1'], objects: ['plate'], trimmed: true });
    const made = await derive({ master: start, rev: 1, time }, recipe, services);
    expect([made.defects, made.report.objects]).toEqual([[], 1]);
    expect(made.back.leaves[0]!.body).toMatchObject({
      sheet: { width: expect.closeTo(22, 6) as number, height: expect.closeTo(12, 6) as number },
      count: 1,
    });
    const check = (current: typeof start) =>
      checkCopy({ files: made.files, intact: true, says: made.says, recipe, current, baseline: start }, services);
    const moved = (id: string, master: typeof start, by: number) => moveItems(master, [id], by, 0).patches;
    // Elsewhere on the board things may change; what it is of may move as a whole.
    expect((await check(applyPatches(start, moved('other', start, 5)).master)).verdict).toBe('in step');
    expect((await check(applyPatches(start, moved('plate', start, 5)).master)).verdict).toBe('in step');
    const gone = await check({ ...start, boards: start.boards.map((board) => ({ ...board, items: [] })) });
    expect(gone).toMatchObject({ verdict: 'behind', proof: 'The objects that it was made of are not in the master any more.' });
    await expect(
      derive({ master: start, rev: 1, time }, recipeOf('svg', {}, { of: 'boards', ids: ['b1'], objects: ['nobody'] }), services),
    ).rejects.toMatchObject({ code: 'object-unknown' });
  });
});

describe('a layer’s colour', () => {
  it('is compared where it is carried, even where nothing is drawn in it', async () => {
    const start = masterWith([rectangle('a', 10, 10, { style: { fill: null, stroke: '#ff0000', strokeWidth: 0.5 } })]);
    const now = { ...start, layers: start.layers.map((one) => (one.id === 'cut' ? { ...one, colour: '#0000ff' } : one)) };
    const recipe = recipeOf('dxf', {});
    const made = await derive({ master: start, rev: 1, time }, recipe, services);
    const result = await checkCopy(
      { files: made.files, intact: true, says: made.says, recipe, current: now, baseline: start },
      services,
    );
    expect(result).toMatchObject({ verdict: 'behind', unchanged: false });
    expect(result.differences.map(differenceInWords)).toEqual([
      expect.stringMatching(/^Layer cut: recoloured \(master #0000ff, copy #/),
    ]);
    expect((await derive({ master: now, rev: 2, time }, recipe, services)).says).not.toBe(made.says);
  });
});

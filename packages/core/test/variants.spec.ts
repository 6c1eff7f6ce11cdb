import fc from 'fast-check';
import {
  type Master,
  type Row,
  type Table,
  type VariantRow,
  checkCopy,
  derive,
  digestOf,
  footprintHash,
  howOf,
  project,
  recipeOf,
  recipeOfHow,
  variantColumns,
  variantOf,
  variantsOf,
} from '../src';
import { masterWith, rectangle, text } from './build';
import { runs } from './depth';
import { services } from './flat';

const parameters: Master['parameters'] = [
  { id: 'p1', name: 'trail', value: 'Sedge Loop', measure: 'text' },
  { id: 'p2', name: 'width', value: 60, measure: 'length' },
  { id: 'p3', name: 'ink', value: '#14213a', measure: 'colour' },
  { id: 'p4', name: 'half', value: 'width / 2', measure: 'length' },
];
const row = (id: string, trail: string, width: number | string, ink = '#2b4180'): Row => ({
  id,
  cells: { c1: trail, c2: width, c3: ink, c4: 'for the north gate' },
});
const trails: Table = {
  id: 't1',
  name: 'Trails',
  key: 'c1',
  columns: [
    { id: 'c1', name: 'Trail', type: 'text' },
    { id: 'c2', name: 'width', type: 'number', unit: 'cm' },
    { id: 'c3', name: 'Ink', type: 'text' },
    { id: 'c4', name: 'remark', type: 'text' },
  ],
  rows: [row('r1', 'Heron Loop', 5), row('r2', 'Bittern Path', 6.5)],
  summaries: [],
};
const panel = (table: Table = trails, more: Partial<Master> = {}): Master =>
  masterWith([rectangle('plate', 0, 0, { width: 60, formulas: { width: 'half' } }), text('name', '{trail}', { slots: true })], {
    parameters,
    tables: [table],
    ...more,
  });
const of = (id: string, target = 'svg') => recipeOf(target, {}, '', undefined, [], { table: 't1', row: id });
const time = '2026-11-20T11:02:00.000Z';
const make = (master: Master, id = 'r1') => derive({ master, rev: 1, time }, of(id), services);
const withCell = (master: Master, id: string, cells: Row['cells']): Master => ({
  ...master,
  tables: master.tables!.map((one) => ({
    ...one,
    rows: one.rows.map((each) => (each.id === id ? { ...each, cells: { ...each.cells, ...cells } } : each)),
  })),
});
const wordsOf = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

describe('a variant', () => {
  it('says what its row gives to parameters, in the units of their columns, and what is computed of them', async () => {
    const [heron, bittern] = [await make(panel()), await make(panel(), 'r2')];
    expect(heron.defects).toEqual([]);
    expect(wordsOf(heron.files[0]!.bytes)).toContain('Heron Loop');
    expect(wordsOf(bittern.files[0]!.bytes)).toContain('Bittern Path');
    const widthOf = (at: string) => variantOf(panel(), { table: 't1', row: at }).parameters![1]!.value;
    expect([widthOf('r1'), widthOf('r2')]).toEqual(['5 cm', '6.5 cm']);
    // Half of 5 and of 6.5 cm.
    const plate = ({ files }: typeof heron) => /<path[^>]* d="([^"]+)"/.exec(wordsOf(files[0]!.bytes))?.[1];
    expect([plate(heron), plate(bittern)]).toEqual(['M0 100L25 100L25 80L0 80Z', 'M0 100L32.5 100L32.5 80L0 80Z']);
  });

  it('is the very master where there is no row', () => {
    const master = panel();
    expect(variantOf(master, null)).toBe(master);
  });

  it('depends on its own row and on nothing else of the table, nor on the values that the row replaces', () => {
    const master = panel();
    const before = footprintHash(master, of('r1'));
    expect(footprintHash(withCell(master, 'r2', { c1: 'Otter Run' }), of('r1'))).toBe(before);
    expect(footprintHash(withCell(master, 'r1', { c4: 'another remark' }), of('r1'))).toBe(before);
    expect(
      footprintHash(
        { ...master, parameters: master.parameters!.map((one) => (one.id === 'p1' ? { ...one, value: 'Elsewhere' } : one)) },
        of('r1'),
      ),
    ).toBe(before);
    expect(footprintHash(withCell(master, 'r1', { c1: 'Otter Run' }), of('r1'))).not.toBe(before);
    expect(footprintHash(withCell(master, 'r1', { c2: 7 }), of('r1'))).not.toBe(before);
    expect(footprintHash(master, of('r2'))).not.toBe(before);
  });

  it('says the same as long as its footprint is the same', async () => {
    const cells = fc.record({
      c1: fc.constantFrom('A', 'B', 'Sedge Loop'),
      c2: fc.constantFrom(4, 5, 6),
      c4: fc.constantFrom('x', 'y'),
    });
    await fc.assert(
      fc.asyncProperty(cells, cells, fc.constantFrom('r1', 'r2'), async (a, b, changed) => {
        const [one, other] = [withCell(panel(), 'r1', a), withCell(withCell(panel(), 'r1', a), changed, b)];
        const says = async (master: Master) => digestOf((await project(master, of('r1'), services)).projection);
        if (footprintHash(one, of('r1')) === footprintHash(other, of('r1'))) expect(await says(other)).toBe(await says(one));
        else expect(await says(other)).not.toBe(await says(one));
      }),
      { numRuns: runs(60) },
    );
  });

  it('is told in its mark of origin, by its row or by the values of a file', () => {
    for (const one of [{ table: 't1', row: 'r1' }, { values: { trail: 'Heron Loop', width: '5 cm' } }] satisfies VariantRow[]) {
      const recipe = recipeOf('svg', {}, '', 'recipe-1', [], one);
      expect(recipeOfHow(howOf(recipe), 'recipe-1')).toMatchObject({ row: one, target: 'svg' });
    }
    expect(recipeOfHow(howOf(recipeOf('svg', {}, '', 'recipe-1')), 'recipe-1').row).toBeNull();
  });

  it('is held against its row: in step, behind where the row changed, was emptied or taken out, touched where the file was', async () => {
    const master = panel();
    const { files, says } = await make(master);
    const check = (current: Master, bytes = files[0]!.bytes) =>
      checkCopy(
        { files: [{ part: '', bytes }], intact: bytes === files[0]!.bytes, says, recipe: of('r1'), current, baseline: master },
        services,
      );
    expect((await check(master)).verdict).toBe('in step');
    expect((await check(withCell(master, 'r2', { c1: 'Otter Run' }))).verdict).toBe('in step');
    const changed = await check(withCell(master, 'r1', { c1: 'Otter Run' }));
    expect(changed).toMatchObject({
      verdict: 'behind',
      differences: [{ kind: 'retyped', master: '“Otter Run”', copy: '“Heron Loop”' }],
    });
    const out = await check(panel({ ...trails, rows: trails.rows.slice(1) }));
    expect(out).toMatchObject({ verdict: 'behind', proof: 'The master has no row “Heron Loop” any more.' });
    const { c1: _, ...left } = trails.rows[0]!.cells;
    const emptied = await check(panel({ ...trails, rows: [{ id: 'r1', cells: left }, trails.rows[1]!] }));
    expect(emptied).toMatchObject({ verdict: 'behind', proof: expect.stringContaining('Trail is empty') });
    const text = wordsOf(files[0]!.bytes).replace('Heron Loop', 'Hernn Loop');
    expect((await check(master, new TextEncoder().encode(text))).verdict).toBe('touched');
  });
});

describe('a table of variants', () => {
  it('is one whose columns are named as parameters are, however they are written', () => {
    expect(variantColumns(panel(), trails).map(({ at, parameter }) => [at, parameter.name])).toEqual([
      [0, 'trail'],
      [1, 'width'],
      [2, 'ink'],
    ]);
    const spaced = [{ id: 'p9', name: 'hole_spacing', value: 40 }];
    expect(variantColumns({ parameters: spaced }, { columns: [{ id: 'c', name: 'Hole spacing', type: 'number' }] })).toHaveLength(
      1,
    );
    expect(() =>
      variantsOf(panel({ ...trails, columns: [trails.columns[3]!] }), { ...trails, columns: [trails.columns[3]!] }),
    ).toThrow('Its parameters are: trail, width, ink, half.');
  });

  it('names a copy a row, and says row by row what keeps one from being made', () => {
    const rows = [
      row('a', 'Heron Loop', 5),
      row('b', 'Heron Loop', 6),
      row('c', 'Otter Run', 'abc'),
      row('d', 'Marsh Way', 5, 'blue-ish'),
      row('e', 'Heron Loop', 5),
      { id: 'f', cells: { c1: 'Fen Edge', c3: '#2b4180' } },
      row('g', 'Reed Walk', 5),
    ];
    const columns = trails.columns.map((one) => (one.id === 'c2' ? { ...one, type: 'text' as const } : one));
    const table = { ...trails, columns, rows };
    const found = variantsOf(panel(table), table);
    expect(found.map(({ name }) => name)).toEqual([
      'Heron Loop 1',
      'Heron Loop 2',
      'Otter Run',
      'Marsh Way',
      'Heron Loop 5',
      'Fen Edge',
      'Reed Walk',
    ]);
    expect(found.map(({ problem }) => problem)).toEqual([
      '',
      '',
      expect.stringContaining('width “abc”: There is no parameter “abc”'),
      expect.stringMatching(/^ink “blue-ish”: /),
      'It says the same as row 1.',
      'width is empty. Every variant needs a value there.',
      '',
    ]);
  });

  it('takes what computed columns come to', () => {
    const columns = trails.columns.map((one) => (one.id === 'c2' ? { ...one, formula: '2 * 4', decimals: 1 } : one));
    const master = panel({ ...trails, columns });
    expect(variantOf(master, { table: 't1', row: 'r1' }).parameters![1]!.value).toBe('8 cm');
  });

  it('refuses two columns that are one parameter, and a value for a parameter that is not there any more', () => {
    const twice = { ...trails, columns: [...trails.columns, { id: 'c5', name: 'TRAIL', type: 'text' as const }] };
    expect(variantsOf(panel(twice), twice)[0]!.problem).toContain('Two columns of Trails are the parameter “trail”');
    const gone = { ...panel(), parameters: parameters!.slice(1) };
    expect(() => variantOf(gone, { values: { trail: 'A' } })).toThrow('There is no parameter “trail” in this master any more');
  });
});

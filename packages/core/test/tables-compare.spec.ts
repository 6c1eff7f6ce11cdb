import { type Difference, type Master, type Recipe, checkCopy, compareAs, derive, newMaster, project, recipeOf } from '../src';
import type { Row } from '../src';
import { services } from './flat';
import { seriesMaster, seriesTable, withRows } from './series';
import { cpuTime } from './cpu-time';

const master = seriesMaster();
const rows = master.tables![0]!.rows;
const json = recipeOf('json', {});
const found = async (now: Master, recipe: Recipe = json): Promise<Difference[]> => {
  const [one, other] = [await project(master, recipe, services), await project(now, recipe, services)];
  return [...compareAs(recipe, one.projection, other.projection).differences];
};
const change = (row: number, cells: Row['cells']): Row[] =>
  rows.map((one, i) => (i === row ? { ...one, cells: { ...one.cells, ...cells } } : one));
const plain = (list: readonly Difference[]) =>
  list.map(({ kind, what, amount, unit, master: a, copy: b, count }) => [kind, what, amount, unit, a, b, count]);
const noFormulas = seriesTable(24, {
  columns: seriesTable().columns.filter(({ formula }) => formula === undefined),
  summaries: [],
});

describe('two tables', () => {
  it('are compared by key: rows that moved did not change', async () => {
    const moved = [rows[5]!, ...rows.slice(0, 5), ...rows.slice(6)];
    expect(plain(await found(withRows(master, moved)))).toEqual([['rows re-ordered', 'Rows', null, '', null, null, 1]]);
    expect(
      await found(
        withRows(master, [...rows].reverse()),
        recipeOf('json', {}, '', undefined, [{ feature: 'row order', take: 'left out' }]),
      ),
    ).toEqual([]);
  });

  it('say which value changed, by how much, in which row', async () => {
    const list = await found(withRows(master, change(6, { c9: 'cracked', c6: true })));
    expect(plain(list)).toEqual([['value changed', 'Note, P-007', null, '', 'empty', 'cracked', 1]]);
    const digit = plain(await found(seriesMaster({ ...noFormulas, rows: change(3, { c5: 61.3 }) }))).filter(
      ([kind]) => kind === 'value changed',
    );
    expect(digit[0]).toEqual([
      'value changed',
      'Gloss after, P-004',
      expect.closeTo(5.2556, 3),
      'GU',
      '66.5555555555556',
      '61.3',
      1,
    ]);
  });

  it('say the same where whole numbers are the same digit by digit, measured ones to 15 digits, and dates to the second', async () => {
    const columns = [
      { id: 'c1', name: 'Barcode', type: 'number' as const },
      { id: 'c2', name: 'Weight', type: 'number' as const },
      { id: 'c3', name: 'Taken', type: 'date' as const },
      { id: 'c4', name: 'Sum', type: 'number' as const, formula: 'Weight + 0.1' },
    ];
    const of = (cells: Row['cells']) => {
      const row = { c1: 4006381333931, c2: 12.345678901234, c3: '2026-03-01T10:00:00', ...cells };
      return seriesMaster({
        id: 't1',
        name: 'Parcels',
        key: null,
        columns,
        rows: [{ id: 'r1', cells: row }],
        summaries: [],
      } as never);
    };
    const differ = async (cells: Row['cells']) => {
      const sides = [await project(of({}), json, services), await project(of(cells), json, services)] as const;
      return compareAs(json, sides[0].projection, sides[1].projection).differences.map(({ what }) => what.split(',')[0]);
    };
    expect(await differ({})).toEqual([]);
    expect(await differ({ c1: 4006381333932 })).toEqual(['Barcode']);
    expect(await differ({ c1: 4006381333931.5 })).toEqual(['Barcode']);
    expect(await differ({ c2: 12.345678901235 })).toContain('Weight');
    expect(await differ({ c2: 12.34567890123401 })).toEqual([]);
    expect(await differ({ c3: '2026-03-01T10:00:01' })).toEqual(['Taken']);
    // What another program wrote: a whole number with a digit more than a number holds is another one.
    const made = await derive({ master: of({}), rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipeOf('csv', {}), services);
    const check = (change: (text: string) => string) =>
      checkCopy(
        {
          files: [{ part: '', bytes: new TextEncoder().encode(change(new TextDecoder().decode(made.files[0]!.bytes))) }],
          intact: false,
          says: made.says,
          recipe: recipeOf('csv', {}),
          current: of({}),
          baseline: of({}),
        },
        services,
      );
    expect((await check((text) => text.replace('4006381333931', '4006381333931.0'))).verdict).toBe('in step');
    expect((await check((text) => text.replace('4006381333931', '4006381333930'))).verdict).toBe('touched');
    expect((await check((text) => text.replace('4006381333931', '40063813339310000000001'))).verdict).toBe('touched');
  });

  it('say which rows are missing and which are new; a changed key is a changed value', async () => {
    const fresh: Row = { id: 'new', cells: { c1: 'P-999', c2: 'Bare' } };
    expect(
      (await found(withRows(master, [...rows.slice(0, 7), ...rows.slice(8), fresh])))
        .filter(({ kind }) => kind.startsWith('row'))
        .map(({ kind, what }) => [kind, what]),
    ).toEqual([
      ['row missing', 'P-008'],
      ['row added', 'P-999'],
    ]);
    expect(plain(await found(withRows(master, change(2, { c1: 'P-0O3' }))))).toEqual([
      ['value changed', 'Panel, P-003', null, '', 'P-003', 'P-0O3', 1],
    ]);
  });

  it('say what became of columns: renamed, missing, added, of another kind, in another unit, computed otherwise', async () => {
    const [table] = master.tables!;
    const with_ = (id: string, more: object) =>
      seriesMaster({ ...table!, columns: table!.columns.map((one) => (one.id === id ? { ...one, ...more } : one)) });
    const kinds = async (now: Master) => (await found(now)).map(({ kind, what }) => `${kind}: ${what}`);
    expect(await kinds(with_('c9', { name: 'Remark' }))).toEqual(['column renamed: Note']);
    expect(await kinds(with_('c2', { type: 'text' }))).toEqual(['type changed: Coating']);
    expect(await kinds(with_('c4', { unit: '%' }))).toEqual(['unit changed: Gloss before']);
    expect(await kinds(with_('c4', { decimals: 2 }))).toEqual(['format changed: Gloss before']);
    expect(
      (await kinds(with_('c7', { formula: '101 * (Gloss_before - Gloss_after) / Gloss_before' }))).filter((one) =>
        one.startsWith('formula'),
      ),
    ).toEqual(['formula changed: Loss']);
    expect((await kinds(with_('c7', { formula: undefined }))).filter((one) => one.startsWith('formula'))).toContain(
      'formula lost: Loss',
    );
    const columns = table!.columns.filter(({ id }) => id !== 'c9');
    expect(await kinds(seriesMaster({ ...table!, columns }))).toEqual(['column missing: Note']);
    expect(
      await kinds(seriesMaster({ ...table!, columns: [...table!.columns, { id: 'x', name: 'Rack', type: 'text' }] })),
    ).toEqual(['column added: Rack']);
    const [a, b, ...more] = table!.columns;
    expect(await kinds(seriesMaster({ ...table!, columns: [b!, a!, ...more] }))).toEqual(['columns re-ordered: Columns']);
  });

  it('tell a rounded column from one with wrong values', async () => {
    const rounded = noFormulas.rows.map((row) => ({
      ...row,
      cells: { ...row.cells, ...(typeof row.cells['c4'] === 'number' ? { c4: Math.round(row.cells['c4']) } : {}) },
    }));
    const [one, other] = [seriesMaster(noFormulas), seriesMaster({ ...noFormulas, rows: rounded })];
    const { differences } = compareAs(
      json,
      (await project(one, json, services)).projection,
      (await project(other, json, services)).projection,
    );
    expect(differences.map(({ kind, what }) => [kind, what])).toEqual([['digits lost', 'Gloss before']]);
    expect(differences[0]!.amount).toBeGreaterThan(0.3);
  });

  it('of which no column tells rows apart are paired by what they say', async () => {
    const { key: _key, ...keyless } = noFormulas;
    const kinds = async (other: Row[]) => {
      const [one, two] = [
        await project(seriesMaster(keyless), json, services),
        await project(seriesMaster({ ...keyless, rows: other }), json, services),
      ];
      return compareAs(json, one.projection, two.projection).differences.map(({ kind, what }) => `${kind}: ${what}`);
    };
    expect(await kinds(change(4, { c4: 12 }))).toEqual(['value changed: Gloss before, row 5']);
    expect(await kinds([...rows.slice(0, 4), ...rows.slice(5)])).toEqual(['row missing: Row 5']);
    expect(await kinds([rows[9]!, ...rows.slice(0, 9), ...rows.slice(10)])).toEqual(['rows re-ordered: Rows']);
    expect(await kinds([...rows.slice(0, 2), { id: 'n', cells: { c1: 'new' } }, ...rows.slice(2)])).toEqual(['row added: Row 3']);
  });

  it('are told apart by rows in which nothing stands only where a copy has more of them between others', async () => {
    const blank = (id: string): Row => ({ id, cells: {} });
    expect(await found(withRows(master, [...rows, blank('x'), blank('y')]))).toEqual([]);
    const between = withRows(master, [rows[0]!, blank('x'), ...rows.slice(1)]);
    expect((await found(between)).map(({ kind, what }) => `${kind}: ${what}`)).toEqual(['row added: An empty row']);
    const sides = [await project(between, json, services), await project(master, json, services)] as const;
    expect(compareAs(json, sides[0].projection, sides[1].projection).differences).toEqual([]);
    const fresh = seriesMaster(newMaster('n', 'New', '', 'series').tables![0]);
    for (const target of ['csv', 'xlsx', 'html', 'json'])
      expect(
        (await derive({ master: fresh, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipeOf(target, {}), services)).defects,
      ).toEqual([]);
  });

  it('of a hundred thousand rows take their time in proportion, however they are ordered', async () => {
    const large = seriesTable(100_000, { columns: noFormulas.columns, summaries: [] });
    const one = await project(seriesMaster(large), json, services);
    const other = await project(seriesMaster({ ...large, rows: [...large.rows].reverse() }), json, services);
    const before = cpuTime();
    const { differences } = compareAs(json, one.projection, other.projection);
    expect(differences.map(({ kind }) => kind)).toEqual(['rows re-ordered']);
    expect(cpuTime() - before).toBeLessThan(20_000);
  });
});

describe('a copy of a table', () => {
  const made = derive(
    { master, rev: 1, time: '2026-11-20T10:00:00.000Z' },
    recipeOf('csv', { decimal: 'comma', delimiter: 'semicolon' }),
    services,
  );
  const verdict = async (edit: (text: string) => string, now = master) => {
    const { files, says } = await made;
    const bytes = new TextEncoder().encode(edit(new TextDecoder().decode(files[0]!.bytes)));
    const recipe = recipeOf('csv', { decimal: 'comma', delimiter: 'semicolon' });
    return checkCopy(
      { files: [{ part: '', bytes }], intact: false, says, recipe, current: now, baseline: master },
      services,
      true,
    );
  };

  it('that another program wrote with other marks says the same', async () => {
    const commas = (text: string) =>
      text
        .split('\r\n')
        .map((line) =>
          line
            .split(';')
            .map((cell) => (/^\d+,\d+$/.test(cell) ? cell.replace(',', '.') : cell))
            .join('\t'),
        )
        .join('\n');
    expect(await verdict(commas)).toMatchObject({ verdict: 'in step', remark: 're-written elsewhere' });
    expect((await verdict((text) => `\ufeff${text}`)).verdict).toBe('in step');
    // As a program writes it that knows one byte a letter (Windows-1252): its quotation marks and dashes are not those of Unicode.
    const { files, says } = await made;
    const text = new TextDecoder().decode(files[0]!.bytes);
    const letters: Readonly<Record<string, number>> = { '“': 0x93, '”': 0x94, '–': 0x96, '€': 0x80 };
    expect(text).toMatch(/[“”]/);
    const bytes = Uint8Array.from([...text].map((letter) => letters[letter] ?? letter.charCodeAt(0)));
    const recipe = recipeOf('csv', { decimal: 'comma', delimiter: 'semicolon' });
    const input = { files: [{ part: '', bytes }], intact: false, says, recipe, current: master, baseline: master };
    expect((await checkCopy(input, services, true)).verdict).toBe('in step');
    expect((await verdict((text) => text.replace(/yes/g, 'TRUE').replace(/;no;/g, ';FALSE;'))).verdict).toBe('in step');
  });

  it.each([
    ['one digit', (text: string) => text.replace('65,8888888888889', '65,8988888888889'), 'value changed'],
    [
      'a sign',
      (text: string) => text.replace('\r\nP-002;Fen wax;2026-02-11;85,', '\r\nP-002;Fen wax;2026-02-11;-85,'),
      'value changed',
    ],
    ['zeros at the front of a name', (text: string) => text.replace('P-010', 'P-10'), 'value changed'],
    ['a day for a month', (text: string) => text.replace('2026-03-12', '2026-12-03'), 'value changed'],
    ['a line less', (text: string) => text.replace(/P-004.*\r\n/, ''), 'row missing'],
    ['a heading', (text: string) => text.replace('Cracked', 'Split'), 'column renamed'],
    ['a unit', (text: string) => text.replace('(GU)', '(mm)'), 'unit changed'],
    ['an apostrophe taken off', (text: string) => text.replace("'=see", '=see'), 'not understood'],
  ])('is found false by %s', async (_, edit, kind) => {
    const { verdict: word, differences } = await verdict(edit);
    expect([word, differences[0]?.kind, differences.length]).toEqual(['touched', kind, 1]);
  });

  it('goes on being true when something changes that it does not carry', async () => {
    const [table] = master.tables!;
    const summaries = table!.summaries.map((one) => (one.id === 's1' ? one : { ...one, name: `${one.name}, all` }));
    const now = seriesMaster({
      ...table!,
      columns: table!.columns.map((one) => ({ ...one, ...(one.type === 'number' ? { decimals: 4 } : {}) })),
      summaries,
    });
    const { files, says } = await made;
    const result = await checkCopy(
      {
        files,
        intact: true,
        says,
        recipe: recipeOf('csv', { decimal: 'comma', delimiter: 'semicolon' }),
        current: now,
        baseline: master,
      },
      services,
    );
    expect(result.verdict).toBe('in step');
  });
});

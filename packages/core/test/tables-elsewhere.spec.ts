import fc from 'fast-check';
import { Failure, bringInAny, codecOf, lookAt, rebaseSteps, recognise, stepOf } from '../src';
import { setCells } from '../src/tables';
import type { Grid } from '../src/content/grid/grid';
import { packEntries } from '../src/document/native/zip';
import { services } from './flat';
import { seriesMaster } from './series';
import { runs } from './depth';

const bytes = (text: string) => new TextEncoder().encode(text);
const brought = async (text: string | Uint8Array, name = 'a.csv', wishes = {}) =>
  (await bringInAny(typeof text === 'string' ? bytes(text) : text, name, services, wishes as never)).master.tables![0]!;
const cells = async (text: string | Uint8Array, name?: string) => {
  const table = await brought(text, name);
  return table.rows.map((row) => table.columns.map(({ id }) => row.cells[id]));
};

describe('cells from elsewhere', () => {
  it('in older encodings, with marks of encodings, in sixteen bits', async () => {
    const text = 'Ort;Wert\nMünchen;1,5\nKöln;2,5\n';
    const latin = Uint8Array.from(text, (letter) => letter.charCodeAt(0));
    const wide = new Uint8Array(2 + 2 * text.length);
    wide.set([0xff, 0xfe]);
    [...text].forEach((letter, i) => new DataView(wide.buffer).setUint16(2 + 2 * i, letter.charCodeAt(0), true));
    for (const one of [bytes(text), bytes(`\ufeff${text}`), latin])
      expect(await cells(one)).toEqual([
        ['München', 1.5],
        ['Köln', 2.5],
      ]);
    const found = (await codecOf('csv')).look!(wide, 'a.csv', {})!;
    expect([found.settings.find(({ name }) => name === 'encoding')!.value, found.rows[0]]).toEqual([
      'utf-16le',
      ['München', '1.5'],
    ]);
  });

  it('with a decimal comma beside a delimiter comma, numbers beyond all, blanks and ragged rows', async () => {
    expect(await cells('a,b\n"1,5",x\n"2,25",y\n')).toEqual([
      [1.5, 'x'],
      [2.25, 'y'],
    ]);
    expect(await cells('a;b\n1e400;1\n2;2\n3;3\n4;4\n')).toEqual([
      ['1e400', 1],
      [2, 2],
      [3, 3],
      [4, 4],
    ]);
    const { master, notUnderstood } = await bringInAny(bytes('a,b\n1,2\n3\n4,5,6\n7,8\n'), 'x.csv', services);
    expect(master.tables![0]!.columns.map(({ name }) => name)).toEqual(['a', 'b', 'Column 3']);
    expect(notUnderstood.map(({ kind }) => kind)).toEqual([
      'cells parted by a comma, a guess',
      'row with more cells than the heading (line 4)',
      'row with fewer cells than the heading (line 3)',
    ]);
    const same = await brought('x,x,x\n1,2,3\n');
    expect(same.columns.map(({ name }) => name)).toEqual(['x', 'x 2', 'x 3']);
  });

  it('with dates that can be read in two ways, which is said to be a guess', async () => {
    const dates = async (text: string) =>
      (await lookAt(bytes(text), 'a.csv', {}))!.settings.find(({ name }) => name === 'dates')!;
    expect(await dates('d,v\n03/04/2026,1\n05/06/2026,2\n')).toMatchObject({ value: 'day first', sure: false });
    expect(await dates('d,v\n03/14/2026,1\n05/06/2026,2\n')).toMatchObject({ value: 'month first', sure: true });
    expect(await dates('d,v\n2026-03-14,1\n')).toMatchObject({ value: 'year first', sure: true });
  });

  it('that look like numbers and are names keep their zeros', async () => {
    const table = await brought('code,n\n007,1\n012,2\n');
    expect(table.columns[0]!.type).toBe('text');
    expect(table.rows[0]!.cells[table.columns[0]!.id]).toBe('007');
  });

  it('in a page: tables in tables, spans, another program’s looks', async () => {
    const page = '<!doctype html><table><tr><th>A<th>B<tr><td>1<td><table><tr><td>9</table><tr><td>2<td>x</table>';
    const { leaves } = await (await codecOf('html')).read([{ part: '', bytes: bytes(page) }], {}, services);
    expect(leaves.map(({ body }) => (body as Grid).count)).toEqual([2, 0]);
    expect(
      await cells(
        '<html><body><table><thead><tr><th>k</th><th>v (mm)</th></tr></thead><tr><td>a</td><td>1.5</td></tr></table>',
        'p.html',
      ),
    ).toEqual([['a', 1.5]]);
  });

  it('in a strict workbook, with dates in words and words in their cells', async () => {
    const sheet = `<worksheet xmlns="http://purl.oclc.org/ooxml/spreadsheetml/main"><sheetData><row r="1"><c r="A1" t="inlineStr"><is><t>Day</t></is></c><c r="B1" t="inlineStr"><is><r><t>Mass</t></r><r><t> (g)</t></r></is></c></row><row r="2"><c r="A2" t="d"><v>2026-03-04</v></c><c r="B2"><v>1.25</v></c></row></sheetData></worksheet>`;
    const workbook =
      '<workbook xmlns="http://purl.oclc.org/ooxml/spreadsheetml/main" xmlns:r="http://purl.oclc.org/ooxml/officeDocument/relationships"><sheets><sheet name="One" sheetId="1" r:id="rId1"/></sheets></workbook>';
    const relations =
      '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://purl.oclc.org/ooxml/officeDocument/relationships/worksheet" Target="sheets/one.xml"/></Relationships>';
    const packed = packEntries(
      new Map([
        ['xl/workbook.xml', bytes(workbook)],
        ['xl/_rels/workbook.xml.rels', bytes(relations)],
        ['xl/sheets/one.xml', bytes(sheet)],
      ]),
      new Set(),
    );
    expect(recognise(packed)?.id).toBe('xlsx');
    const table = await brought(packed, 'strict.xlsx');
    expect(table.columns.map(({ name, type, unit }) => [name, type, unit])).toEqual([
      ['Day', 'date', undefined],
      ['Mass', 'number', 'g'],
    ]);
    expect(Object.values(table.rows[0]!.cells)).toEqual(['2026-03-04', 1.25]);
  });

  it('in JSON keep every digit of a number that is longer than numbers are here', async () => {
    const long = '12345678901234567890123';
    const columns = ['Parcel', 'Seen'].map((name) => ({ name, type: 'number' }));
    const text = JSON.stringify({ tables: [{ name: 'Parcels', columns, rows: [[1, 2]] }] });
    const rows = `[[${long},4006381333931],[-1e400,"${long} 1e999"],[-0.0000011952480069505733,1e21]]`;
    const { master: made } = await (await codecOf('json')).bringIn!(bytes(text.replace('[[1,2]]', rows)), 'a.json', services);
    const said = made.tables![0]!.rows.map(({ cells }) => Object.values(cells));
    expect(said).toEqual([
      [long, 4006381333931],
      ['-1e400', `${long} 1e999`],
      [-0.0000011952480069505733, 1e21],
    ]);
  });

  it('whatever they are, end in a table or in words', async () => {
    const odd = fc
      .array(
        fc.constantFrom(
          'a',
          '1',
          ',',
          ';',
          '\t',
          '"',
          '\n',
          '\r\n',
          '""',
          '=',
          '<table>',
          '<td>',
          '{"tables":[',
          '\u0000',
          '1e999',
          '31.02.2026',
          ' ',
        ),
        { maxLength: 60 },
      )
      .map((parts) => parts.join(''));
    await fc.assert(
      fc.asyncProperty(odd, fc.constantFrom('csv', 'html', 'json'), async (text, target) => {
        try {
          await (
            await codecOf(target)
          ).bringIn!(bytes(text), 'a.x', services);
        } catch (error) {
          expect(error).toBeInstanceOf(Failure);
        }
      }),
      { numRuns: runs(400) },
    );
  });
});

describe('two people in one table', () => {
  const master = seriesMaster();
  const [table] = master.tables!;
  const step = (row: number, column: number, cell: number) => {
    const { label, patches } = setCells(table!, [{ row, column, cell }]);
    return stepOf(master, label, patches);
  };

  it('who change different cells of a row lose nothing; the same cell is met with its row and column by name', () => {
    const theirs = step(2, 3, 70);
    const kept = rebaseSteps(master, theirs.master, [step(2, 4, 60).step]);
    expect(kept.clashes).toEqual([]);
    expect(kept.master.tables![0]!.rows[2]!.cells).toMatchObject({ c4: 70, c5: 60 });
    const { clashes } = rebaseSteps(master, theirs.master, [step(2, 3, 71).step]);
    expect(clashes).toMatchObject([{ what: 'Panels, P-003: Gloss before', mine: '71', theirs: '70' }]);
  });
});

describe('tables that programs write as JSON', () => {
  const rows = [
    { place: 'weir', level: 1.5, day: '2026-11-01', wet: true },
    { place: 'fen', level: 2.25, day: '2026-11-02', wet: false },
    { place: 'pool', level: null, day: '2026-11-03', wet: true },
  ];
  const names = Object.keys(rows[0]!) as (keyof (typeof rows)[number])[];
  it.each<[string, string]>([
    ['records', JSON.stringify(rows)],
    ['a record a line', rows.map((row) => JSON.stringify(row)).join('\n')],
    ['lists under a heading', JSON.stringify([names, ...rows.map((row) => Object.values(row))])],
    ['columns', JSON.stringify(Object.fromEntries(names.map((name) => [name, rows.map((row) => row[name])])))],
    [
      'columns by row',
      JSON.stringify(Object.fromEntries(names.map((name) => [name, Object.fromEntries(rows.map((row, i) => [i, row[name]]))]))),
    ],
    ['names and rows apart', JSON.stringify({ columns: names, index: [0, 1, 2], data: rows.map((row) => Object.values(row)) })],
    ['records by a name', JSON.stringify({ asked: { at: 'noon' }, results: rows })],
  ])('come in as a table: %s', async (_, text) => {
    const table = await brought(text, 'a.json');
    expect(table.columns.map(({ name, type }) => `${name} ${type}`)).toEqual([
      'place text',
      'level number',
      'day date',
      'wet yes or no',
    ]);
    expect(table.rows.map(({ cells: row }) => table.columns.map(({ id }) => row[id]))).toEqual([
      ['weir', 1.5, '2026-11-01', true],
      ['fen', 2.25, '2026-11-02', false],
      ['pool', undefined, '2026-11-03', true],
    ]);
  });

  it('keep what is more than a cell as it is written, and say so', async () => {
    const { master, notUnderstood } = await bringInAny(bytes('[{"a":1,"b":[1,2]},{"a":2,"b":{"c":3}}]'), 'a.json', services);
    const [table] = master.tables!;
    expect(table!.rows.map(({ cells: row }) => row[table!.columns[1]!.id])).toEqual(['[1,2]', '{"c":3}']);
    expect(notUnderstood).toEqual([
      { kind: 'column whose cells hold more than one value, kept as they are written', count: 1, shows: true },
    ]);
  });

  it('have no cells but those that are written, whatever a column is called, and end where they are nested without end', async () => {
    const table = await brought('[{"__proto__":1,"a":2},{"constructor":3,"a":4}]', 'a.json');
    const { columns, rows } = table;
    const at = (name: string) => rows.map(({ cells: row }) => row[columns.find((one) => one.name === name)!.id]);
    expect([at('__proto__'), at('a'), at('constructor')]).toEqual([
      [1, undefined],
      [2, 4],
      [undefined, 3],
    ]);
    const deep = `${'['.repeat(50_000)}${']'.repeat(50_000)}`;
    await expect(brought(deep, 'a.json')).rejects.toMatchObject({ code: 'json-damaged' });
  });

  it('are refused in words where there is no table', async () => {
    for (const text of ['{"a": 1, "b": "x"}', '[[], []]', '{"a": {"b": {"c": 1}}}'])
      await expect(brought(text, 'a.json')).rejects.toThrow(Failure);
  });
});

describe('cells that carry more than numbers', () => {
  const columns = async (text: string) =>
    (await brought(text)).columns.map(({ name, type, unit = '' }) => `${name} ${type} ${unit}`.trim());

  it('have their currency and per cent as the unit of the column, in whatever grouping', async () => {
    const euro = 'item,price,share\noak,"€ 1.234,50","12,5 %"\nash,"€ 2,25","7,0 %"\nelm,"€ 12,00","80,5 %"\n';
    expect(await columns(euro)).toEqual(['item text', 'price number €', 'share number %']);
    expect(await cells(euro)).toEqual([
      ['oak', 1234.5, 12.5],
      ['ash', 2.25, 7],
      ['elm', 12, 80.5],
    ]);
    expect(await cells('item,price\noak,"$1,234.50"\nash,-$2.25\nelm,$12.00\n')).toEqual([
      ['oak', 1234.5],
      ['ash', -2.25],
      ['elm', 12],
    ]);
    // Two currencies are not one column of numbers.
    expect(await columns('item,price\noak,$1\nash,€ 2\n')).toEqual(['item text', 'price text']);
  });

  it('are grouped as in Switzerland, in France, in India', async () => {
    const second = async (text: string) => (await cells(text)).map(([, value]) => value);
    expect(await second("a;b\nx;1'234.50\ny;2’345.25\nz;12.00\n")).toEqual([1234.5, 2345.25, 12]);
    expect(await second('a;b\nx;1 234,50\ny;12\u202f345,25\nz;3,00\n')).toEqual([1234.5, 12_345.25, 3]);
    expect(await second('a;b\nx;12,34,567.50\ny;1,23,456.25\nz;99,999.00\n')).toEqual([1_234_567.5, 123_456.25, 99_999]);
    expect(await second('a;b\nx;12,3,4.50\ny;1 2 3\n')).toEqual(['12,3,4.50', '1 2 3']);
  });

  it('stand below lines that tell of them, and without a heading', async () => {
    expect(await cells('# made by hand\n# on a day\na,b\n1,2\n3,4\n')).toEqual([
      [1, 2],
      [3, 4],
    ]);
    expect(await cells('sep=;\na;b\n1;2\n3;4\n')).toEqual([
      [1, 2],
      [3, 4],
    ]);
    expect(await columns('1,2.5,3\n4,5.5,6\n7,8.5,9\n')).toEqual(['Column 1 number', 'Column 2 number', 'Column 3 number']);
    expect(await columns('place,2024,2025\nweir,1,2\nfen,3,4\n')).toEqual(['place text', '2024 number', '2025 number']);
    const found = (await codecOf('csv')).look!(bytes('1,2\n3,4\n'), 'a.csv', {})!;
    expect(found.settings.find(({ name }) => name === 'heading')).toMatchObject({ value: 'none', sure: false });
    expect((await brought('1,2\n3,4\n', 'a.csv', { heading: 'first row' })).columns.map(({ name }) => name)).toEqual(['1', '2']);
  });

  it('say on the command line, too, what of them is only a guess', async () => {
    const latin = Uint8Array.from('Ort;Höhe\nKöln;2,5\nLinz;3,5\n', (letter) => letter.charCodeAt(0));
    const { notUnderstood } = await bringInAny(latin, 'a.csv', services);
    expect(notUnderstood.map(({ kind }) => kind)).toEqual(['letters read as windows-1252, a guess']);
  });
});

import fc from 'fast-check';
import { type Master, bringInAny, checkCopy, codecOf, derive, parseMark, recipeOf, recognise } from '../src';
import { packEntries, unpackEntries } from '../src/document/native/zip';
import type { Grid } from '../src/content/grid/grid';
import { fromWorkbook } from '../src/formats/xlsx/formula-read';
import { ROW, toWorkbook } from '../src/formats/xlsx/formula-write';
import { formatOf } from '../src/formats/xlsx/formats';
import { plainFormula } from '../src/tables';
import { services } from './flat';
import { python } from './python';
import { seriesMaster, seriesTable } from './series';
import { judgedBy } from './judged-by';
import { atDepth, runs } from './depth';

const time = '2026-11-20T10:00:00.000Z';
const master = seriesMaster();
const recipe = recipeOf('xlsx', {}, { of: 'master' });
const made = (from: Master = master) => derive({ master: from, rev: 3, time }, recipe, services);
const gridOf = async (bytes: Uint8Array) =>
  (await (await codecOf('xlsx')).read([{ part: '', bytes }], {}, services)).leaves[0]!.body as Grid;

/** What openpyxl makes of a workbook after some lines of its own. */
const openpyxl = (bytes: Uint8Array, lines: string) =>
  python(
    `import openpyxl, json, datetime\nfrom openpyxl import Workbook\nwb = openpyxl.load_workbook('a.xlsx') if ${bytes.length ? 'True' : 'False'} else Workbook()\n${lines}\n`,
    bytes,
    'a.xlsx',
  );
const resaved = (bytes: Uint8Array, lines: string) => openpyxl(bytes, `${lines}\nwb.save('a.xlsx')`).written;
const check = async (bytes: Uint8Array, now = master) => {
  const { says } = await made();
  return checkCopy({ files: [{ part: '', bytes }], intact: false, says, recipe, current: now, baseline: master }, services, true);
};

describe('formulas of workbooks', () => {
  const places = {
    cell: (name: string) => ({ A: `A${ROW}`, Gloss_new: `B${ROW}`, kept: `C${ROW}` })[name] ?? null,
    column: (name: string) => ({ A: 'A$2:A$9', Gloss_new: 'B$2:B$9', kept: 'C$2:C$9' })[name] ?? null,
    summary: (name: string) => (name === 'Mean' ? "'T summary'!$B$2" : null),
  };
  const seen = {
    cell: (sheet: string | null, column: number, row: number) =>
      sheet === 'T summary' ? 'Mean' : sheet === null && row === 4 ? (['A', 'Gloss_new', 'kept'][column] ?? null) : null,
    range: (_sheet: string | null, from: readonly number[], to: readonly number[]) =>
      from[1] === 1 && to[1] === 8 && from[0] === to[0] ? (['A', 'Gloss_new', 'kept'][from[0]!] ?? null) : null,
  };
  const there = (text: string) => toWorkbook(text, places)?.replaceAll(ROW, '5') ?? null;

  it.each([
    ['A + Gloss_new * 2', 'A5+(B5*2)'],
    ['-A ^ 2', '-(A5^2)'],
    ['A ^ Gloss_new ^ 2', 'A5^(B5^2)'],
    ['(A - kept) / mean(A)', '(A5-C5)/AVERAGE(A$2:A$9)'],
    ['A > 1 and kept < 2 ? log(A) : log10(A)', 'IF(AND(A5>1,C5<2),LN(A5),LOG10(A5))'],
    ['max(A, kept) - min(A)', 'MAX(A5,C5)-MIN(A$2:A$9)'],
    ['A == "a ""b"""', null],
    ['A == "wax"', 'A5="wax"'],
    ['mod(A, 3) + pi', 'MOD(A5,3)+PI()'],
    ['round(A) + ceil(kept)', 'ROUND(A5,0)+CEILING(C5,1)'],
    ['quantile(A, 0.9) - Mean', "PERCENTILE(A$2:A$9,0.9)-'T summary'!$B$2"],
    ['unknown + 1', null],
    ['concat(left(A, 3), "-", upper(kept))', 'CONCATENATE(LEFT(A5,3),"-",UPPER(C5))'],
    ['otherwise(A / kept, 0)', 'IFERROR(A5/C5,0)'],
    ['ceil(A, 1) + floor(kept, 2) + fix(A, 3)', '(CEILING(A5,0.1)+FLOOR(C5,0.01))+TRUNC(A5,3)'],
    ['date(year(A), month(A) + 1, weekday(A))', 'DATE(YEAR(A5),MONTH(A5)+1,WEEKDAY(A5,2))'],
    ['fixed(A, 2)', 'TEXT(A5,"0.00")'],
    ['sum_where(A, kept, Gloss_new, A, "> 5")', 'SUMIFS(A$2:A$9,C$2:C$9,B5,A$2:A$9,">5")'],
    ['count_where(kept, "oak")', 'COUNTIFS(C$2:C$9,"oak")'],
    ['first_where(A, kept, Gloss_new)', 'INDEX(A$2:A$9,MATCH(B5,C$2:C$9,0))'],
    ['first_where(A, kept, Gloss_new, A, 3)', null],
  ])('%s', (text, expected) => expect(there(text)).toBe(expected));

  it('come back as they went, whatever they are made of', () => {
    const atom = fc.oneof(
      fc.constantFrom('A', 'Gloss_new', 'kept', 'Mean', 'pi', 'mean(A)', 'std(kept)', 'quantile(A, 0.25)', 'count(Gloss_new)'),
      fc.integer({ min: 0, max: 99 }).map(String),
      fc.constantFrom('0.5', '1e-7'),
    );
    const { formula } = fc.letrec<{ formula: string }>((tie) => ({
      formula: fc.oneof(
        { maxDepth: 4 },
        atom,
        fc
          .tuple(tie('formula'), fc.constantFrom('+', '-', '*', '/', '^', '%'), tie('formula'))
          .map(([a, sign, b]) => `(${a}) ${sign} (${b})`),
        fc
          .tuple(tie('formula'), fc.constantFrom('<', '>', '<=', '>=', '==', '!='), tie('formula'), atom, atom)
          .map(([a, sign, b, c, d]) => `((${a}) ${sign} (${b})) ? ${c} : ${d}`),
        tie('formula').map((a) => `-(${a})`),
        fc
          .tuple(
            fc.constantFrom('abs', 'sqrt', 'exp', 'log', 'log10', 'floor', 'ceil', 'round', 'sign', 'sin', 'fix'),
            tie('formula'),
          )
          .map(([name, a]) => `${name}(${a})`),
        fc.tuple(tie('formula'), tie('formula')).map(([a, b]) => `max(${a}, ${b})`),
        fc
          .tuple(fc.constantFrom('left', 'concat', 'otherwise', 'position'), tie('formula'), tie('formula'))
          .map(([name, a, b]) => `${name}(${a}, ${b})`),
        fc
          .tuple(fc.constantFrom('sum_where', 'mean_where', 'first_where'), tie('formula'))
          .map(([name, a]) => `${name}(A, kept, ${a})`),
        fc
          .tuple(fc.constantFrom('ceil', 'floor', 'fix', 'round', 'fixed'), tie('formula'))
          .map(([name, a]) => `${name}(${a}, 2)`),
      ),
    }));
    fc.assert(
      fc.property(formula, (text) => {
        const said = there(text);
        expect(said).not.toBeNull();
        expect([text, said, fromWorkbook(said!, seen)]).toEqual([text, said, plainFormula(text)]);
      }),
      { numRuns: runs(400) },
    );
  });

  it.each([
    ['(A > 2) ? 1 : 0', 'A > 2 ? 1 : 0'],
    ['exp(1) + A', 'e + A'],
    ['mod(mod(A, 3), 2)', '(A % 3) % 2'],
    ['+((A))', 'A'],
  ])('are one formula, whichever way they are typed: %s', (one, other) => expect(plainFormula(one)).toBe(plainFormula(other)));

  it.each([
    ['A5&"-"&B5&C5', 'concat(A, "-", Gloss_new, kept)'],
    ['VLOOKUP(B5,$A$2:$C$9,3,FALSE)', 'first_where(kept, A, Gloss_new)'],
    ['COUNTIF(A$2:A$9,">=2")', 'count_where(A, ">=2")'],
    ['SUMIF(A$2:A$9,A5,C$2:C$9)', 'sum_where(kept, A, A)'],
    ['SUM(A5:C5)', 'A + Gloss_new + kept'],
    ['AVERAGE(A5,C5)', '(A + kept) / 2'],
    ['ROUNDUP(A5,1)', 'sign(A) * ceil(abs(A), 1)'],
    ['_xlfn.IFS(A5>1,"a",TRUE,"b")', '(A > 1) ? "a" : "b"'],
    ['_xlfn.XLOOKUP(A5,B2:B9,C2:C9,"none")', 'otherwise(first_where(kept, Gloss_new, A), "none")'],
    ['WEEKDAY(A5)', 'weekday(A) mod 7 + 1'],
  ])('%s comes in', (theirs, ours) => expect(fromWorkbook(theirs, seen)).toBe(ours));

  it.each([
    'SUM(A1:A9)',
    'VLOOKUP(A5,$A$2:$C$9,3,TRUE)',
    'VLOOKUP(A5,$A$2:$C$9,4,FALSE)',
    'COUNTIF(A2:B9,1)',
    'IFS(A5>1,"a")',
    'TODAY()',
    'LEFT(A5,)',
    'A4+B5',
    'VLOOKUP(A5,B2:C9,2)',
    'INDIRECT("A5")',
    'A5+',
    '=cmd|x',
    "'Other sheet'!A5",
    '('.repeat(5000),
  ])('that say what ours can’t are no formulas of ours: %s', (text) => {
    expect(fromWorkbook(text, seen)).toBeNull();
  });

  it.each([
    ['0.00', 2, false, false],
    ['#,##0', 0, false, false],
    ['0%', null, false, true],
    ['yyyy\\-mm\\-dd', null, true, false],
    ['[$-407]dd.mm.yyyy', null, true, false],
    ['[Red]0.0;-0.0', 1, false, false],
    ['0.0,', null, false, true],
    [';;;', null, false, true],
    ['0.0E+00', null, false, true],
    ['0 "mm"', 0, false, true],
    ['General', null, false, false],
  ])('number format %s', (code, decimals, date, odd) => {
    const found = formatOf(code);
    expect([found.decimals, found.date, found.odd !== null]).toEqual([decimals, date, odd]);
  });
});

judgedBy('openpyxl').describe('a workbook, judged by another library', () => {
  it('holds the values, formulas, formats, widths, a frozen heading and its mark', async () => {
    const { files } = await made();
    const { out } = openpyxl(
      files[0]!.bytes,
      `ws = wb['Panels']
print(json.dumps({'sheets': wb.sheetnames, 'frozen': ws.freeze_panes, 'wide': ws.column_dimensions['A'].width > 5, 'head': [c.value for c in ws[1]],
 'row': [str(c.value) for c in ws[2]], 'formats': [c.number_format for c in ws[2]], 'bold': ws['A1'].font.b, 'sums': [[c.value for c in r] for r in wb['Panels summary'].iter_rows()],
 'rows': ws.max_row, 'title': wb.properties.title, 'kind': [c.data_type for c in ws[3]]}))
import zipfile; print(zipfile.ZipFile('a.xlsx').testzip())
print(zipfile.ZipFile('a.xlsx').read('docProps/custom.xml').decode())`,
    );
    const [facts, broken, ...custom] = out.split('\n');
    expect(broken).toBe('None');
    expect(parseMark(custom.join(' ').replace(/<[^>]*>/g, ' '))).toMatchObject({ master: master.id, rev: 3 });
    expect(JSON.parse(facts!)).toEqual({
      sheets: ['Panels', 'Panels summary'],
      frozen: 'A2',
      wide: true,
      head: [
        'Panel',
        'Coating',
        'Measured',
        'Gloss before (GU)',
        'Gloss after (GU)',
        'Cracked',
        'Loss (%)',
        'Above the mean',
        'Note',
      ],
      row: [
        'P-001',
        'Reed oil',
        '2026-01-10 00:00:00',
        '80',
        '60',
        'True',
        '=(100*(D2-E2))/D2',
        "=G2>'Panels summary'!$B$2",
        '-dull, "matt"\nat the edge',
      ],
      formats: ['General', 'General', 'yyyy\\-mm\\-dd', '0.0', '0.0', 'General', '0.00', 'General', 'General'],
      bold: true,
      sums: [
        ['Summary', 'Value'],
        ['Mean loss (%)', "=AVERAGE('Panels'!G2:G25)"],
        ['Spread (GU)', "=MAX('Panels'!E2:E25)-MIN('Panels'!E2:E25)"],
        ['Panels measured', "=COUNTA('Panels'!E2:E25)"],
        ['Worst tenth (%)', "=PERCENTILE('Panels'!G2:G25,0.9)"],
      ],
      rows: 25,
      title: 'Panels',
      kind: ['s', 's', 'd', 'n', 'n', 'b', 'f', 'f', 'n'],
    });
  });

  it('that the other library saved again says the same; what formulas give is computed by whoever opens it', async () => {
    const { files } = await made();
    const again = resaved(files[0]!.bytes, '');
    // That library keeps formulas and drops what was computed of them: they say what they said.
    expect(await check(again)).toMatchObject({ verdict: 'in step', remark: 're-written elsewhere', differences: [] });
    const plain = seriesMaster(
      seriesTable(24, { columns: seriesTable().columns.filter(({ formula }) => formula === undefined), summaries: [] }),
    );
    const first = (await made(plain)).files[0]!.bytes;
    const result = await checkCopy(
      { files: [{ part: '', bytes: resaved(first, '') }], intact: false, says: '', recipe, current: plain, baseline: plain },
      services,
      true,
    );
    expect(result).toMatchObject({ verdict: 'in step', differences: [] });
  });

  it.each([
    ['a digit', "wb['Panels']['D4'] = 90.5714385", 'value changed'],
    ['a value over a formula', "wb['Panels']['G3'] = 22.743346361436824", 'formula lost'],
    ['another formula', "wb['Panels']['G3'] = '=100*(D3-E3)/E3'", 'formula changed'],
    ['a formula in a column of values', "wb['Panels']['D3'] = '=80+5.28571428571429'", 'formula changed'],
    ['a row taken out', "wb['Panels'].delete_rows(5)", 'row missing'],
    ['a date of another day', "wb['Panels']['C3'] = datetime.datetime(2026, 2, 12)", 'value changed'],
    ['percent', "wb['Panels']['D3'].number_format = '0%'", 'not understood'],
    ['fewer digits shown', "for r in range(2, 26): wb['Panels'].cell(r, 4).number_format = '0'", 'format changed'],
    ['hidden rows', "wb['Panels'].row_dimensions[4].hidden = True", 'not understood'],
    ['merged cells', "wb['Panels'].merge_cells('A2:A3')", 'not understood'],
    ['a hidden sheet', "wb['Panels summary'].sheet_state = 'hidden'", 'not understood'],
    ['a sheet more', "wb.create_sheet('More')['A1'] = 'x'", 'sheet added'],
    ['another name', "wb['Panels'].title = 'Panel'", 'sheet added'],
    ['a heading', "wb['Panels']['I1'] = 'Notes'", 'column renamed'],
    ['yes for no', "wb['Panels']['F3'] = True", 'value changed'],
  ])('is found false by %s', async (_, lines, kind) => {
    const { files } = await made();
    const { verdict, differences } = await check(resaved(files[0]!.bytes, lines));
    expect(verdict).toBe('touched');
    expect(differences.map((one) => one.kind)).toContain(kind);
  });

  it('that the other library made comes in as tables: kinds, dates, formulas, digits, a heading below a title', async () => {
    const bytes = openpyxl(
      new Uint8Array(),
      `ws = wb.active; ws.title = 'Trial 7'
ws['A1'] = 'Trial 7, north rack'
for c, v in enumerate(['Sample', 'Coated', 'Mass (g)', 'Dry (g)', 'Water', 'Sound', 'State'], 1): ws.cell(3, c, v)
for r in range(4, 34):
    ws.cell(r, 1, 'S-%02d' % r); ws.cell(r, 2, datetime.date(2026, 2, 1) + datetime.timedelta(days=r)); ws.cell(r, 3, 10 + r / 8).number_format = '0.00'; ws.cell(r, 4, 9 + r / 9)
    ws.cell(r, 5, '=(C%d-D%d)/D%d*100' % (r, r, r)); ws.cell(r, 6, r % 2 == 0); ws.cell(r, 7, ['new', 'dull'][r % 2])
other = wb.create_sheet('Empty')
third = wb.create_sheet('Flat'); third.append(['x', 'y']); third.append([1, 2]); third.append([3, 'n/a'])
wb.save('a.xlsx')`,
    ).written;
    const { master: brought, notUnderstood } = await bringInAny(bytes, 'trial.xlsx', services);
    expect(brought.tables!.map(({ name, rows }) => [name, rows.length])).toEqual([
      ['Trial 7', 30],
      ['Flat', 2],
    ]);
    const [table, flat] = brought.tables!;
    expect(table!.columns.map(({ name, type, unit, decimals, formula }) => [name, type, unit, decimals, formula])).toEqual([
      ['Sample', 'text', undefined, undefined, undefined],
      ['Coated', 'date', undefined, undefined, undefined],
      ['Mass', 'number', 'g', 2, undefined],
      ['Dry', 'number', 'g', undefined, undefined],
      ['Water', 'number', undefined, undefined, '(Mass - Dry) / Dry * 100'],
      ['Sound', 'yes or no', undefined, undefined, undefined],
      ['State', 'category', undefined, undefined, undefined],
    ]);
    expect(table!.rows[0]!.cells).toMatchObject({
      'table-1-c1': 'S-04',
      'table-1-c2': '2026-02-05',
      'table-1-c3': 10.5,
      'table-1-c6': true,
    });
    expect(table!.key).toBe('table-1-c1');
    expect(flat!.rows[1]!.cells).toEqual({ 'table-2-c1': 3, 'table-2-c2': 'n/a' });
    expect(notUnderstood).toEqual([{ kind: 'row above the heading', count: 1, shows: true }]);
    expect(brought.resources[0]).toMatchObject({ role: 'original', name: 'trial.xlsx' });
  });
});

describe('a workbook that is not as it should be', () => {
  const parts = async (change: (entries: Map<string, Uint8Array>) => void) => {
    const entries = unpackEntries((await made()).files[0]!.bytes);
    change(entries);
    return packEntries(entries, new Set());
  };
  const text = (words: string) => new TextEncoder().encode(words);
  const edit = (name: string, from: string | RegExp, to: string) =>
    parts((entries) => entries.set(name, text(new TextDecoder().decode(entries.get(name)).replace(from, to))));

  it.each([
    [
      'entities',
      () => edit('xl/sharedStrings.xml', /<sst/, '<!DOCTYPE sst [<!ENTITY a "aaaa">]><sst'),
      /sharedStrings.*document type/,
    ],
    ['damaged XML', () => edit('xl/worksheets/sheet1.xml', '</sheetData>', ''), /sheet1\.xml.*damaged/],
    ['words that are not there', () => edit('xl/worksheets/sheet1.xml', /<v>0<\/v>/, '<v>9999</v>'), /words number 9999/],
    ['a row beyond all', () => edit('xl/worksheets/sheet1.xml', '<row r="3">', '<row r="99999999">'), /row 99999999/],
    ['a cell that is none', () => edit('xl/worksheets/sheet1.xml', 'r="A2"', 'r="A2B"'), /cell “A2B”/],
    [
      'a sheet that is not there',
      () => parts((entries) => entries.delete('xl/worksheets/sheet1.xml')),
      /sheet “Panels” is not in the package/,
    ],
    ['a column beyond all', () => edit('xl/worksheets/sheet1.xml', 'r="B2"', 'r="ZZZ2"'), /at most 1000/],
  ])('is refused in words: %s', async (_, bytes, words) => {
    await expect(async () => gridOf(await bytes())).rejects.toThrow(words);
    expect(recognise(await bytes())?.id).toBe('xlsx');
  });

  it('that was cut off is still known for one, and not read', async () => {
    const { bytes } = (await made()).files[0]!;
    const cut = bytes.slice(0, bytes.length - 900);
    expect(recognise(cut)?.id).toBe('xlsx');
    await expect(async () => gridOf(cut)).rejects.toThrow(/can't be unpacked/);
    expect(await check(cut)).toMatchObject({ verdict: 'unreadable' });
  });

  it('that unpacks to more than is sensible is not unpacked', async () => {
    const bomb = await parts((entries) =>
      entries.set('xl/worksheets/sheet1.xml', new Uint8Array(atDepth(4_000_000, 40_000_000))),
    );
    // Our own writer stores what would look like that; a harmful one packs it.
    const { zipSync } = await import('fflate');
    const harmful = zipSync({
      '[Content_Types].xml': text('<x/>'),
      'xl/workbook.xml': [new Uint8Array(60_000_000), { level: 1 }],
    });
    expect(bomb.length).toBeGreaterThan(atDepth(100_000, 1_000_000));
    await expect(async () => gridOf(harmful)).rejects.toThrow(/unpacks to more than is sensible/);
  });

  it('reads whatever a file says without a surprise', async () => {
    const { bytes } = (await made()).files[0]!;
    const entries = unpackEntries(bytes);
    const sheet = new TextDecoder().decode(entries.get('xl/worksheets/sheet1.xml'));
    await fc.assert(
      fc.asyncProperty(
        fc.nat(sheet.length - 20),
        fc.constantFrom(
          '<',
          '>',
          '"',
          '<c/>',
          '&#0;',
          '</row>',
          '1e999',
          '<f>',
          '\u0000',
          '<row r="-1">',
          '<v>NaN</v>',
          ' t="s"',
        ),
        fc.nat(12),
        async (at, odd, less) => {
          const changed = sheet.slice(0, at) + odd + sheet.slice(at + less);
          const packed = packEntries(new Map([...entries, ['xl/worksheets/sheet1.xml', text(changed)]]), new Set());
          await gridOf(packed).catch((error: Error) => expect(error.name).toBe('Failure'));
        },
      ),
      { numRuns: runs(150) },
    );
  });
});

test('a table of more columns than a workbook holds is told before anything is written', async () => {
  const table = seriesTable(1);
  const columns = Array.from({ length: 16_385 }, (_, i) => ({ id: `n${i}`, name: `Reading ${i}`, type: 'number' as const }));
  const { key: _key, ...wide } = { ...table, columns, summaries: [] };
  await expect(made({ ...master, tables: [wide] })).rejects.toMatchObject({
    code: 'too-large',
    message: 'Workbook (XLSX) can’t hold “Panels”: it has 16385 columns, and it holds 16384.',
  });
});

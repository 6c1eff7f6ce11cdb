import { bringInAny, derive, newId, recipeOf } from '../src';
import { packEntries } from '../src/document/native/zip';
import { services } from './flat';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const xml = (text: string): Uint8Array => bytes(`<?xml version="1.0" encoding="UTF-8"?>\n${text}`);
const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const RELATION = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006/relationships';

/** A cell: what it shows, its formula, and the number of its format. */
type Cell = readonly [shown: string | number | null, formula?: string, format?: number] | string | number;
const column = (i: number): string => String.fromCharCode(65 + i);

/** A workbook as other programs write them: each formula with the value that it came to. */
function workbook(rows: readonly (readonly Cell[])[], formats: readonly string[] = []): Uint8Array {
  const cell = (one: Cell, at: string): string => {
    const [shown, formula, format] = Array.isArray(one) ? one : [one];
    const look = format === undefined ? '' : ` s="${format + 1}"`;
    const said = formula === undefined ? '' : `<f>${(formula as string).replaceAll('&', '&amp;').replaceAll('<', '&lt;')}</f>`;
    if (typeof shown === 'number') return `<c r="${at}"${look}>${said}<v>${shown}</v></c>`;
    const kind = typeof shown === 'string' && shown.startsWith('#') ? 'e' : 'str';
    return `<c r="${at}" t="${kind}"${look}>${said}${shown === null ? '' : `<v>${String(shown)}</v>`}</c>`;
  };
  const sheet = rows.map(
    (row, r) => `<row r="${r + 1}">${row.map((one, c) => cell(one, `${column(c)}${r + 1}`)).join('')}</row>`,
  );
  const codes = formats.map((code, i) => `<numFmt numFmtId="${200 + i}" formatCode="${code}"/>`).join('');
  const looks = formats.map((_, i) => `<xf numFmtId="${200 + i}"/>`).join('');
  const parts: [string, Uint8Array][] = [
    [
      '_rels/.rels',
      xml(
        `<Relationships xmlns="${PACKAGE}"><Relationship Id="r" Type="${RELATION}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
      ),
    ],
    [
      'xl/workbook.xml',
      xml(
        `<workbook xmlns="${MAIN}" xmlns:r="${RELATION}"><sheets><sheet name="Data" sheetId="1" r:id="s"/></sheets></workbook>`,
      ),
    ],
    [
      'xl/_rels/workbook.xml.rels',
      xml(
        `<Relationships xmlns="${PACKAGE}"><Relationship Id="s" Type="${RELATION}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="t" Type="${RELATION}/styles" Target="styles.xml"/></Relationships>`,
      ),
    ],
    [
      'xl/styles.xml',
      xml(
        `<styleSheet xmlns="${MAIN}"><numFmts count="${formats.length}">${codes}</numFmts><cellXfs><xf numFmtId="0"/>${looks}</cellXfs></styleSheet>`,
      ),
    ],
    ['xl/worksheets/sheet1.xml', xml(`<worksheet xmlns="${MAIN}"><sheetData>${sheet.join('')}</sheetData></worksheet>`)],
  ];
  return packEntries(new Map(parts), new Set());
}

/** The table of a workbook that came in: its columns with what stands in them, and what was told. */
async function broughtIn(file: Uint8Array) {
  const { master, notUnderstood } = await bringInAny(file, 'data.xlsx', services);
  const [table] = master.tables!;
  const csv = await derive(
    { master: { ...master, id: newId() }, rev: 1, time: '2026-11-20T10:00:00.000Z' },
    recipeOf('csv', {}, '', 'tables'),
    services,
  );
  const lines = new TextDecoder()
    .decode(csv.files[0]!.bytes)
    .trim()
    .split(/\r?\n/)
    .map((line) => line.split(','));
  return {
    formulas: Object.fromEntries(table!.columns.map(({ name, formula }) => [name, formula])),
    shown: Object.fromEntries(lines[0]!.map((head, i) => [head, lines.slice(1).map((line) => line[i])])),
    told: notUnderstood.filter(({ shows }) => shows).map(({ kind }) => kind),
    defects: csv.defects,
  };
}

describe('a workbook of somebody else', () => {
  it('keeps the shown values of every formula that is not ours, and says so', async () => {
    const rows: Cell[][] = [['kind', 'count', 'price', 'total', 'today', 'name', 'broken']];
    for (const [i, price] of [3.5, 2.25, 4].entries()) {
      const n = i + 2;
      rows.push([
        `oak ${i}`,
        i + 1,
        [price, `VLOOKUP(A${n},Prices!$A$1:$B$3,2,FALSE)`],
        [(i + 1) * price, `B${n}*C${n}`],
        [46_357, 'TODAY()', 0],
        [`oak ${i}-${i + 1}`, `A${n}&"-"&B${n}`],
        ['#DIV/0!', 'B2/0'],
      ]);
    }
    const { formulas, shown, told, defects } = await broughtIn(workbook(rows, ['yyyy-mm-dd']));
    expect(defects).toEqual([]);
    expect(formulas).toMatchObject({
      price: undefined,
      total: 'count_ * price',
      today: undefined,
      name: 'concat(kind, "-", count_)',
      broken: undefined,
    });
    expect(shown).toMatchObject({
      price: ['3.5', '2.25', '4'],
      total: ['3.5', '4.5', '12'],
      today: ['2026-12-01', '2026-12-01', '2026-12-01'],
      name: ['oak 0-1', 'oak 1-2', 'oak 2-3'],
      broken: ['#DIV/0!', '#DIV/0!', '#DIV/0!'],
    });
    const kept = (name: string) => `formula kept as the values that it showed: ${name}`;
    expect(told).toEqual(expect.arrayContaining([kept('VLOOKUP(…)'), kept('TODAY(…)')]));
    expect(told).toHaveLength(3);
  });

  it('keeps what it showed where a formula of ours would come to something else, and what hangs on it is computed from that', async () => {
    const rows: Cell[][] = [['a', 'double', 'more']];
    // Somebody computed by other rules, or did not compute again.
    for (let i = 1; i < 5; i++) rows.push([i, [i === 3 ? 7 : 2 * i, `A${i + 1}*2`], [(i === 3 ? 7 : 2 * i) + 1, `B${i + 1}+1`]]);
    const { formulas, shown, told } = await broughtIn(workbook(rows));
    expect(formulas).toMatchObject({ double: undefined, more: 'double + 1' });
    expect([shown['double'], shown['more']]).toEqual([
      ['2', '4', '7', '8'],
      ['3', '5', '8', '9'],
    ]);
    expect(told).toEqual([expect.stringContaining('formula kept as the values that it showed')]);
  });

  it('keeps formulas that another program wrote without values', async () => {
    const rows: Cell[][] = [['a', 'double'], ...[1, 2, 3].map((i): Cell[] => [i, [null, `A${i + 1}*2`]])];
    const { formulas, shown, told } = await broughtIn(workbook(rows));
    expect([formulas['double'], shown['double'], told]).toEqual(['a * 2', ['2', '4', '6'], []]);
  });

  it('has times of day as words and stretches of time in hours, and no day of 1899', async () => {
    const rows: Cell[][] = [
      ['at', 'lasts', 'day'],
      ...[0, 1, 2].map((i): Cell[] => [
        [0.5 + i / 86_400, undefined as never, 0],
        [1.5 + i, undefined as never, 1],
        [46_000 + i, undefined as never, 2],
      ]),
    ];
    const { shown, told } = await broughtIn(workbook(rows, ['hh:mm:ss', '[h]:mm', 'yyyy-mm-dd']));
    expect(shown).toEqual({
      at: ['12:00:00', '12:00:01', '12:00:02'],
      'lasts (h)': ['36', '60', '84'],
      day: ['2025-12-09', '2025-12-10', '2025-12-11'],
    });
    expect(told).toEqual([]);
  });
});

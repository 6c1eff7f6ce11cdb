import { type Grid, type GridColumn, cellWords } from '../../content/grid/grid';
import { inHeading } from '../../evaluate/tables/heading';
import type { Leaf } from '../../contracts/leaf';
import { packEntries } from '../../document/native/zip';
import { namesOf } from '../../evaluate/tables/names';
import { looksLikeFormula } from '../../content/grid/adapt';
import { parseMark } from '../../contracts/mark';
import { EPOCH } from './epoch';
import { ROW, type Places, toWorkbook } from './formula-write';
import { SUMMARY_END, SUMMARY_HEADS, columnLetters, quotedSheet } from './sheet-names';
import { Styles } from './styles';
import { xmlText } from '../../base/bytes/xml-text';

export const MARK_ENTRY = 'docProps/custom.xml';
const XML = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const DOCUMENT = 'http://schemas.openxmlformats.org/officeDocument/2006';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';

/** Words that are told apart by their number, so that each is written once. */
class Strings {
  private readonly numbers = new Map<string, number>();
  private count = 0;

  numberOf(text: string): number {
    this.count++;
    let at = this.numbers.get(text);
    if (at === undefined) this.numbers.set(text, (at = this.numbers.size));
    return at;
  }
  xml(): string {
    const all = [...this.numbers.keys()].map(
      (text) => `<si><t${/^\s|\s$|\n/.test(text) ? ' xml:space="preserve"' : ''}>${xmlText(text)}</t></si>`,
    );
    return `${XML}<sst xmlns="${MAIN}" count="${this.count}" uniqueCount="${this.numbers.size}">${all.join('')}</sst>`;
  }
}

interface Sheet {
  readonly name: string;
  readonly xml: string;
}

const width = (column: GridColumn, count: number): number => {
  let most = inHeading(column.name, column.unit).length + 2;
  for (let row = 0; row < Math.min(count, 200); row++) most = Math.max(most, cellWords(column, row).length);
  return Math.min(60, Math.max(8, most + 2));
};

/** How formulas of a table name its cells. */
function placesOf(name: string, { columns, summaries, count }: Grid, from: 'table' | 'summary'): Places {
  const names = namesOf(
    columns.map(({ name: own }) => own),
    summaries.map(({ name: own }) => own),
  );
  const at = (table: ReadonlyMap<string, number>, word: string) => table.get(word);
  const sheet = from === 'summary' ? quotedSheet(name) : '';
  return {
    cell: (word) => {
      const column = at(names.columns, word);
      return column === undefined || from === 'summary' ? null : `${columnLetters(column)}${ROW}`;
    },
    column: (word) => {
      const column = at(names.columns, word);
      if (column === undefined) return null;
      const letters = columnLetters(column);
      return from === 'summary' ? `${sheet}${letters}2:${letters}${count + 1}` : `${letters}$2:${letters}$${count + 1}`;
    },
    summary: (word) => {
      const summary = at(names.summaries, word);
      return summary === undefined ? null : `${from === 'summary' ? '' : quotedSheet(name + SUMMARY_END)}$B$${summary + 2}`;
    },
  };
}

class Workbook {
  readonly strings = new Strings();
  readonly styles = new Styles();

  private text(place: string, words: string, style = 0): string {
    const own = style || (looksLikeFormula(words) ? this.styles.quoted : 0);
    return `<c r="${place}" t="s"${own ? ` s="${own}"` : ''}><v>${this.strings.numberOf(words)}</v></c>`;
  }

  private heading(texts: readonly string[]): string {
    return `<row r="1">${texts.map((text, i) => this.text(`${columnLetters(i)}1`, text, this.styles.heading)).join('')}</row>`;
  }

  /** What is written of a column, as a function of the row: numbers of rows stand where they come. */
  private columnWriter(grid: Grid, at: number, places: Places): (row: number) => string {
    const column = grid.columns[at]!;
    const letters = columnLetters(at);
    const { type, numbers, words } = column;
    const style = type === 'number' ? this.styles.digits(column.decimals) : 0;
    const formula = column.formula === null ? null : toWorkbook(column.formula, places);
    const parts = formula?.split(ROW).map(xmlText);
    return (row) => {
      const place = `${letters}${row + 2}`;
      const word = words?.[row];
      const value = numbers?.[row] ?? NaN;
      const own = parts ? `<f>${parts.join(String(row + 2))}</f>` : '';
      if (!own && !word && Number.isNaN(value)) return '';
      if (word) return own ? `<c r="${place}" t="str">${own}<v>${xmlText(word)}</v></c>` : this.text(place, word);
      if (Number.isNaN(value)) return `<c r="${place}"${style ? ` s="${style}"` : ''}>${own}</c>`;
      if (type === 'yes or no') return `<c r="${place}" t="b">${own}<v>${value}</v></c>`;
      if (type !== 'date') return `<c r="${place}"${style ? ` s="${style}"` : ''}>${own}<v>${value}</v></c>`;
      const days = value % 1 === 0;
      return `<c r="${place}" s="${days ? this.styles.day : this.styles.time}">${own}<v>${Number((value + EPOCH).toPrecision(15))}</v></c>`;
    };
  }

  private sheet(widths: readonly number[], rows: readonly string[]): string {
    const cols = widths.map((one, i) => `<col min="${i + 1}" max="${i + 1}" width="${one}" customWidth="1"/>`).join('');
    return [
      `${XML}<worksheet xmlns="${MAIN}"><dimension ref="A1:${columnLetters(Math.max(0, widths.length - 1))}${rows.length}"/>`,
      '<sheetViews><sheetView workbookViewId="0"><pane ySplit="1" topLeftCell="A2" activePane="bottomLeft" state="frozen"/></sheetView></sheetViews>',
      `<sheetFormatPr defaultRowHeight="15"/>${cols ? `<cols>${cols}</cols>` : ''}<sheetData>${rows.join('')}</sheetData></worksheet>`,
    ].join('');
  }

  table(name: string, grid: Grid): Sheet {
    const places = placesOf(name, grid, 'table');
    const writers = grid.columns.map((_, i) => this.columnWriter(grid, i, places));
    const rows = [this.heading(grid.columns.map(({ name: own, unit }) => inHeading(own, unit)))];
    for (let row = 0; row < grid.count; row++) {
      let cells = '';
      for (const write of writers) cells += write(row);
      rows.push(`<row r="${row + 2}">${cells}</row>`);
    }
    return {
      name,
      xml: this.sheet(
        grid.columns.map((column) => width(column, grid.count)),
        rows,
      ),
    };
  }

  summaries(name: string, grid: Grid): Sheet {
    const places = placesOf(name, grid, 'summary');
    const rows = [this.heading(SUMMARY_HEADS)];
    grid.summaries.forEach(({ name: own, unit, decimals, formula, value }, i) => {
      const said = formula === null ? null : toWorkbook(formula, places);
      const style = this.styles.digits(decimals);
      const inner = `${said ? `<f>${xmlText(said)}</f>` : ''}${Number.isNaN(value) ? '' : `<v>${value}</v>`}`;
      rows.push(
        `<row r="${i + 2}">${this.text(`A${i + 2}`, inHeading(own, unit))}<c r="B${i + 2}"${style ? ` s="${style}"` : ''}>${inner}</c></row>`,
      );
    });
    return { name: name + SUMMARY_END, xml: this.sheet([32, 14], rows) };
  }
}

/** Names of sheets are told apart whatever the case of their letters. */
function freeNames(leaves: readonly Leaf[]): string[] {
  const used = new Set<string>();
  return leaves.map(({ label }) => {
    const wanted = label || 'Table';
    let name = wanted;
    for (let i = 2; used.has(name.toLowerCase()); i++) name = `${wanted.slice(0, 20)} ${i}`;
    used.add(name.toLowerCase());
    return name;
  });
}

/** Writes tables as a workbook (ECMA-376-1, transitional): a sheet each, and one for its summaries. The same tables give the same bytes. */
export function writeXlsx(leaves: readonly Leaf[], mark: string): Uint8Array {
  const workbook = new Workbook();
  const names = freeNames(leaves);
  const sheets = leaves.flatMap(({ body }, i) => {
    const grid = body as Grid;
    return [workbook.table(names[i]!, grid), ...(grid.summaries.length ? [workbook.summaries(names[i]!, grid)] : [])];
  });
  const written = parseMark(mark)?.written ?? '1980-01-01T00:00:00.000Z';
  const parts = new Map<string, string>();
  const types = (extra: string) =>
    `${XML}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>${extra}</Types>`;
  const sheetType = 'application/vnd.openxmlformats-officedocument.spreadsheetml';
  const override = (name: string, type: string) => `<Override PartName="/${name}" ContentType="${type}"/>`;
  const relation = (id: number, type: string, target: string) =>
    `<Relationship Id="rId${id}" Type="${type}" Target="${target}"/>`;
  const relations = (all: readonly string[]) =>
    `${XML}<Relationships xmlns="${PACKAGE}/relationships">${all.join('')}</Relationships>`;
  parts.set(
    '[Content_Types].xml',
    types(
      [
        override('xl/workbook.xml', `${sheetType}.sheet.main+xml`),
        ...sheets.map((_, i) => override(`xl/worksheets/sheet${i + 1}.xml`, `${sheetType}.worksheet+xml`)),
        override('xl/styles.xml', `${sheetType}.styles+xml`),
        override('xl/sharedStrings.xml', `${sheetType}.sharedStrings+xml`),
        override('docProps/core.xml', 'application/vnd.openxmlformats-package.core-properties+xml'),
        override(MARK_ENTRY, 'application/vnd.openxmlformats-officedocument.custom-properties+xml'),
      ].join(''),
    ),
  );
  parts.set(
    '_rels/.rels',
    relations([
      relation(1, `${DOCUMENT}/relationships/officeDocument`, 'xl/workbook.xml'),
      relation(2, `${PACKAGE}/relationships/metadata/core-properties`, 'docProps/core.xml'),
      relation(3, `${DOCUMENT}/relationships/custom-properties`, MARK_ENTRY),
    ]),
  );
  parts.set(
    'xl/workbook.xml',
    `${XML}<workbook xmlns="${MAIN}" xmlns:r="${DOCUMENT}/relationships"><sheets>${sheets.map(({ name }, i) => `<sheet name="${xmlText(name)}" sheetId="${i + 1}" r:id="rId${i + 1}"/>`).join('')}</sheets></workbook>`,
  );
  parts.set(
    'xl/_rels/workbook.xml.rels',
    relations([
      ...sheets.map((_, i) => relation(i + 1, `${DOCUMENT}/relationships/worksheet`, `worksheets/sheet${i + 1}.xml`)),
      relation(sheets.length + 1, `${DOCUMENT}/relationships/styles`, 'styles.xml'),
      relation(sheets.length + 2, `${DOCUMENT}/relationships/sharedStrings`, 'sharedStrings.xml'),
    ]),
  );
  sheets.forEach(({ xml }, i) => parts.set(`xl/worksheets/sheet${i + 1}.xml`, xml));
  parts.set('xl/styles.xml', workbook.styles.xml(XML, MAIN));
  parts.set('xl/sharedStrings.xml', workbook.strings.xml());
  parts.set(
    'docProps/core.xml',
    `${XML}<cp:coreProperties xmlns:cp="${PACKAGE}/metadata/core-properties" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:dcterms="http://purl.org/dc/terms/" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"><dc:title>${xmlText(names[0] ?? '')}</dc:title><dcterms:created xsi:type="dcterms:W3CDTF">${xmlText(written.replace(/\.\d+Z$/, 'Z'))}</dcterms:created></cp:coreProperties>`,
  );
  parts.set(
    MARK_ENTRY,
    `${XML}<Properties xmlns="${DOCUMENT}/custom-properties" xmlns:vt="${DOCUMENT}/docPropsVTypes"><property fmtid="{D5CDD505-2E9C-101B-9397-08002B2CF9AE}" pid="2" name="Origin"><vt:lpwstr>${xmlText(mark)}</vt:lpwstr></property></Properties>`,
  );
  const encoder = new TextEncoder();
  return packEntries(new Map([...parts].map(([name, text]) => [name, encoder.encode(text)])), new Set([MARK_ENTRY]));
}

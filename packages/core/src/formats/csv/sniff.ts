import Papa from 'papaparse';
import { dateFrom, numberFrom } from '../../evaluate/tables/typed';
import { withoutAffix } from '../../evaluate/tables/affix';
import { DELIMITERS, type Delimiter } from './declare';
import { withoutPreamble } from './preamble';
import { decode, encodingOf } from './encoding';
import type { Encoding } from '../../base/bytes/encodings';

export type DateOrder = 'year first' | 'day first' | 'month first';

/** How a file of cells is read. */
export interface CsvDialect {
  readonly encoding: Encoding;
  readonly delimiter: Delimiter;
  readonly decimal: '.' | ',';
  readonly dates: DateOrder;
  readonly heading: 'first row' | 'none';
  readonly quotes: 'double' | 'apostrophe';
}
/** What was found, and what of it is only a guess. */
export interface SniffedDialect extends CsvDialect {
  readonly unsure: readonly (keyof CsvDialect)[];
}

/** What stands around a cell that holds the delimiter. */
export const QUOTES = { double: '"', apostrophe: "'" } as const;

/** Rows that are looked at. */
const LOOK = 400;

/** The first rows of a text, cut by a delimiter. */
export const someRows = (text: string, delimiter: Delimiter, quotes: CsvDialect['quotes'] = 'double'): string[][] =>
  Papa.parse<string[]>(text, {
    delimiter: DELIMITERS[delimiter],
    quoteChar: QUOTES[quotes],
    preview: LOOK,
    skipEmptyLines: 'greedy',
  }).data;

/** Which marks stand around cells: apostrophes only where all that begin with one end with one, and no cell has the usual marks. */
function quotesOf(text: string): { quotes: CsvDialect['quotes']; sure: boolean } {
  const count = (pattern: RegExp): number => text.match(pattern)?.length ?? 0;
  const begins = count(/(?<=^|[,;\t|])'(?!')/gm);
  const whole = count(/(?<=^|[,;\t|])'(?:[^'\r\n]|'')+'(?=$|[,;\t|\r\n])/gm);
  // A cell that begins with a single one is a word that a spreadsheet is not to compute (guard.ts).
  return begins && begins === whole && !count(/(?<=^|[,;\t|])"/gm)
    ? { quotes: 'apostrophe', sure: false }
    : { quotes: 'double', sure: true };
}

/** How well a delimiter cuts: rows of the same count of cells, more than one. */
function fit(rows: readonly (readonly string[])[]): number {
  const counts = new Map<number, number>();
  for (const { length } of rows) counts.set(length, (counts.get(length) ?? 0) + 1);
  const [width, often] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [1, 0];
  return width < 2 ? 0 : often / rows.length + width / 10_000;
}

/** Which delimiter cuts a text into rows of one length. */
export function delimiterOf(
  text: string,
  wanted?: Delimiter,
  quotes?: CsvDialect['quotes'],
): { delimiter: Delimiter; sure: boolean } {
  const head = text.slice(0, 200_000);
  const fits = (Object.keys(DELIMITERS) as Delimiter[]).map((delimiter) => ({
    delimiter,
    fit: fit(someRows(head, delimiter, quotes)),
  }));
  const best = fits.reduce((a, b) => (b.fit > a.fit ? b : a));
  const asked = fits.find(({ delimiter }) => delimiter === wanted);
  // What is said counts as long as it cuts at all.
  if (asked && (asked.fit > 0.6 || best.fit === 0)) return { delimiter: asked.delimiter, sure: true };
  const rivals = fits.filter((one) => one !== best && one.fit > 0.9);
  return { delimiter: best.fit ? best.delimiter : 'comma', sure: best.fit > 0.9 && !rivals.length };
}

/** Which decimal mark numbers have: what only one of the two can have written. */
export function decimalOf(rows: readonly (readonly string[])[], wanted?: '.' | ','): { decimal: '.' | ','; sure: boolean } {
  let [points, commas] = [0, 0];
  for (const row of rows)
    for (const cell of row) {
      const { number } = withoutAffix(cell);
      const [point, comma] = [numberFrom(number, '.'), numberFrom(number, ',')];
      // 1,234 and 1.234 are numbers either way, and say nothing.
      if (Number.isNaN(point) && !Number.isNaN(comma)) commas++;
      else if (Number.isNaN(comma) && !Number.isNaN(point)) points++;
    }
  if (points !== commas) return { decimal: points > commas ? '.' : ',', sure: !points || !commas };
  const marked = rows.some((row) => row.some((cell) => /^[+-]?\d{1,3}([.,]\d{3})+$/.test(cell.trim())));
  return { decimal: wanted ?? '.', sure: !marked || wanted !== undefined };
}

/** In which order dates are written: what only one order can have meant. */
function datesOf(rows: readonly (readonly string[])[]): { dates: DateOrder; sure: boolean } {
  let [day, month, either] = [0, 0, 0];
  for (const row of rows)
    for (const cell of row) {
      if (!/^\d{1,2}[./-]\d{1,2}[./-](\d{2}|\d{4})(\D|$)/.test(cell.trim()) && !/^\d{1,2}[./-]\d{1,2}$/.test(cell.trim()))
        continue;
      const [first, second] = [dateFrom(cell, 'day first'), dateFrom(cell, 'month first')];
      if (first && !second) day++;
      else if (second && !first) month++;
      else if (first) either++;
    }
  if (!day && !month) return { dates: either ? 'day first' : 'year first', sure: !either };
  return { dates: day >= month ? 'day first' : 'month first', sure: !day || !month };
}

/** Whether the first row is a heading: not where it holds numbers or dates, as the rows below it do. */
function headingOf(
  [first = [], ...rest]: readonly (readonly string[])[],
  decimal: '.' | ',',
  dates: DateOrder,
): { heading: CsvDialect['heading']; sure: boolean } {
  const isValue = (cell: string): boolean =>
    !Number.isNaN(numberFrom(withoutAffix(cell).number, decimal)) || dateFrom(cell, dates) !== '';
  const filled = first.filter((cell) => cell.trim());
  const values = filled.filter(isValue).length;
  // A year is a heading as often as a number.
  const years = filled.filter((cell) => /^(1[89]|20)\d\d$/.test(cell.trim())).length;
  if (!rest.length || !values || values === years) return { heading: 'first row', sure: true };
  const below = rest[0]!.filter((cell) => cell.trim() && isValue(cell)).length;
  return values >= below ? { heading: 'none', sure: false } : { heading: 'first row', sure: false };
}

/** How a file is to be read, found in its own bytes; what is asked for is taken as it is. */
export function findReading(bytes: Uint8Array, asked: Partial<CsvDialect> = {}): SniffedDialect {
  const unsure: (keyof CsvDialect)[] = [];
  const take = <K extends keyof CsvDialect>(
    name: K,
    found: Record<K, CsvDialect[K]> & { readonly sure: boolean },
  ): CsvDialect[K] => {
    const said: CsvDialect[K] | undefined = asked[name];
    if (said !== undefined) return said;
    if (!found.sure) unsure.push(name);
    return (found as Record<K, CsvDialect[K]>)[name];
  };
  const encoding = take('encoding', encodingOf(bytes));
  const { text, delimiter: stated } = withoutPreamble(decode(bytes, encoding));
  const quotes = take('quotes', quotesOf(text.slice(0, 200_000)));
  const delimiter = take('delimiter', stated ? { delimiter: stated, sure: true } : delimiterOf(text, undefined, quotes));
  const rows = someRows(text.slice(0, 200_000), delimiter, quotes);
  const decimal = take('decimal', decimalOf(rows));
  const dates = take('dates', datesOf(rows));
  return { encoding, delimiter, decimal, dates, quotes, heading: take('heading', headingOf(rows, decimal, dates)), unsure };
}

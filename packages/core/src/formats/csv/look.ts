import { cellInWords, computedTable } from '../../evaluate/tables/compute';
import type { ImportPreview } from '../../contracts/codec';
import { gridsToMaster } from '../tables/bring-in';
import type { PartWishes } from '../../contracts/wishes';
import { DECIMALS } from './declare';
import { decode } from './encoding';
import { ENCODINGS } from '../../base/bytes/encodings';
import { withoutPreamble } from './preamble';
import { type ReadCells, readCells } from './read';
import { type SniffedDialect, type CsvDialect, findReading } from './sniff';

/** How somebody said that a file is to be read. */
function readingAsked({ encoding, delimiter, decimal, dates, heading, quotes }: Partial<PartWishes> = {}): Partial<CsvDialect> {
  return {
    ...(encoding ? { encoding } : {}),
    ...(delimiter ? { delimiter } : {}),
    ...(decimal ? { decimal: DECIMALS[decimal] } : {}),
    ...(dates ? { dates } : {}),
    ...(heading ? { heading } : {}),
    ...(quotes ? { quotes } : {}),
  };
}

/** The cells of a file, read as is wished, or as its own bytes suggest. */
export function cellsOf(
  bytes: Uint8Array,
  wishes?: Partial<PartWishes>,
): ReadCells & { readonly found: SniffedDialect; readonly comments: readonly string[] } {
  const found = findReading(bytes, readingAsked(wishes));
  const { text, comments } = withoutPreamble(decode(bytes, found.encoding));
  const { delimiter, decimal, quotes, heading } = found;
  return { found, comments, ...readCells(text, { delimiter, decimal, quotes, hasHeading: heading === 'first row' }) };
}

export const linesInWords = (lines: readonly number[]): string =>
  `line${lines.length > 1 ? 's' : ''} ${lines.slice(0, 5).join(', ')}${lines.length > 5 ? ' …' : ''}`;

/** Rows that are shown before a file is brought in. */
const SHOWN = 8;
const choice = (value: string, label = value) => ({ value, label });

/** What was found in a file of cells, and its first rows as they would come in. */
export function lookAtCells(bytes: Uint8Array, name: string, wishes: Partial<PartWishes>): ImportPreview {
  const { found, grid, longer, shorter, comments } = cellsOf(bytes, wishes);
  const table = gridsToMaster([{ name: '', grid }], bytes, name, found).tables![0]!;
  const { columns } = computedTable(table);
  const setting = (
    key: keyof CsvDialect,
    label: string,
    choices: ImportPreview['settings'][number]['choices'],
    value: string,
  ) => ({
    name: key,
    label,
    value,
    choices,
    sure: !found.unsure.includes(key),
  });
  const odd = columns.flatMap(({ column, problems }) =>
    problems.size ? [`“${column.name}”: ${problems.size} cells hold something else than its other ones.`] : [],
  );
  return {
    settings: [
      setting(
        'delimiter',
        'Between cells',
        [choice('comma'), choice('semicolon'), choice('tab'), choice('bar', 'upright bar')],
        found.delimiter,
      ),
      setting('decimal', 'Decimal mark', [choice('point'), choice('comma')], found.decimal === '.' ? 'point' : 'comma'),
      setting(
        'dates',
        'Dates',
        [
          choice('year first', '2026-04-03'),
          choice('day first', '3.4.2026: day first'),
          choice('month first', '4/3/2026: month first'),
        ],
        found.dates,
      ),
      // Marks around cells are asked of where others than the usual ones were found.
      ...(found.unsure.includes('quotes') || wishes.quotes
        ? [
            setting(
              'quotes',
              'Around cells',
              [choice('double', 'quotation marks: "a, b"'), choice('apostrophe', "apostrophes: 'a, b'")],
              found.quotes,
            ),
          ]
        : []),
      setting('heading', 'Heading', [choice('first row', 'the first row'), choice('none')], found.heading),
      setting(
        'encoding',
        'Characters',
        ENCODINGS.map((one) => choice(one)),
        found.encoding,
      ),
    ],
    columns: table.columns.map(({ name: own, unit = '', type }) => ({ name: own, unit, type })),
    rows: table.rows.slice(0, SHOWN).map((_, row) => columns.map((column) => cellInWords(column, row))),
    remarks: [
      `${table.rows.length} rows, ${table.columns.length} columns.`,
      ...(comments.length ? [`Lines before the heading that are none of it: ${comments.length}.`] : []),
      ...(longer.length
        ? [`Rows with more cells than the heading: ${linesInWords(longer)}. What is beyond gets a column of its own.`]
        : []),
      ...(shorter.length
        ? [`Rows with fewer cells than the heading: ${linesInWords(shorter)}. What is missing stays empty.`]
        : []),
      ...odd,
    ],
  };
}

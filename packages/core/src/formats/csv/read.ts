import Papa from 'papaparse';
import { type Grid, type GridColumn, plainColumn } from '../../content/grid/grid';
import { fromHeading } from '../../evaluate/tables/heading';
import { Failure } from '../../base/failure/failure';
import { MOST_COLUMNS, MOST_ROWS } from '../../document/tables/schema';
import { DELIMITERS, type Delimiter } from './declare';
import { QUOTES } from './sniff';
import { isOpen, unguarded } from './guard';

/** What a text of cells says, and where it is not as it should be. */
export interface ReadCells {
  readonly grid: Grid;
  /** Rows with more cells than the heading, and with fewer, by their lines. */
  readonly longer: readonly number[];
  readonly shorter: readonly number[];
  /** Words that should have an apostrophe before them, and have none. */
  readonly open: number;
}

/** Lines that are told of one kind of trouble. */
const TOLD = 20;

interface CellsReading {
  readonly delimiter: Delimiter;
  readonly decimal: '.' | ',';
  readonly quotes?: keyof typeof QUOTES;
  /** Words that look like formulas have an apostrophe before them. */
  readonly isGuarded?: boolean;
  /** The first line is the heading, and not a row. */
  readonly hasHeading?: boolean;
}

/**
 * Reads lines of cells: the first is the heading. Missing cells are empty, further ones get columns of their own.
 * @throws Failure `csv-damaged` with the line
 */
export function readCells(
  text: string,
  { delimiter, decimal, quotes = 'double', isGuarded = true, hasHeading = true }: CellsReading,
): ReadCells {
  let open = 0;
  const plain = (word: string): string => {
    if (isGuarded && isOpen(word, decimal)) open++;
    return isGuarded ? unguarded(word) : word;
  };
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), {
    delimiter: DELIMITERS[delimiter],
    quoteChar: QUOTES[quotes],
  });
  const broken = errors.find(({ type }) => type === 'Quotes');
  if (broken)
    throw new Failure(
      'csv-damaged',
      'A quotation mark is opened here and not closed as it should be. Close it, or double it where it is meant as a letter.',
      {
        line: (broken.row ?? 0) + 1,
      },
    );
  // The end of the last line begins no other.
  if (data.at(-1)?.length === 1 && data.at(-1)![0] === '') data.pop();
  const [first] = data;
  const heading = hasHeading ? first : first?.map((_, i) => `Column ${i + 1}`);
  const all = hasHeading ? data.slice(1) : data;
  if (!heading) throw new Failure('csv-damaged', 'There is nothing in this file.');
  if (all.length > MOST_ROWS)
    throw new Failure('too-many-rows', `This has ${all.length} rows; at most ${MOST_ROWS} can be kept. Split it.`);
  // In a table of several columns an empty line is no row; in one of a single column it is an empty cell.
  const rows = heading.length > 1 ? all.filter((row) => row.length > 1 || row[0] !== '') : all;
  const width = rows.reduce((most, row) => Math.max(most, row.length), heading.length);
  if (width > MOST_COLUMNS)
    throw new Failure('too-many-columns', `This has ${width} columns; at most ${MOST_COLUMNS} can be kept.`);
  const [longer, shorter]: [number[], number[]] = [[], []];
  rows.forEach((row, i) => {
    const list = row.length > heading.length ? longer : row.length < heading.length ? shorter : null;
    if (list && list.length < TOLD) list.push(i + (hasHeading ? 2 : 1));
  });
  const columns = Array.from({ length: width }, (_, at): GridColumn => {
    const words = new Array<string>(rows.length);
    for (let i = 0; i < rows.length; i++) words[i] = plain(rows[i]![at] ?? '');
    return { ...plainColumn, ...fromHeading(plain(heading[at] ?? `Column ${at + 1}`)), type: 'untyped', words };
  });
  return { grid: { columns, count: rows.length, key: -1, summaries: [], decimal }, longer, shorter, open };
}

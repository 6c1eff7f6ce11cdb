import { type Grid, type GridColumn, plainColumn } from '../../content/grid/grid';
import { MOST_COLUMNS, MOST_ROWS } from '../../document/tables/schema';
import { fromHeading } from '../../evaluate/tables/heading';
import { dateFrom } from '../../evaluate/tables/typed';
import { daysOf } from '../../evaluate/tables/dates';
import { Failure } from '../../base/failure/failure';

type Value = unknown;
type Rows = { readonly names: readonly string[]; readonly rows: readonly (readonly Value[])[] };
const isObject = (value: Value): value is Readonly<Record<string, Value>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
/** What an object says itself: “constructor” may be the name of a column, and stand in some rows only. */
const own = (one: Readonly<Record<string, Value>>, name: string): Value => (Object.hasOwn(one, name) ? one[name] : undefined);
const isList = (value: Value): value is readonly Value[] => Array.isArray(value);

/** Objects that say the same things: a row each, a column for every name in the order in which they come. */
function ofRecords(value: Value): Rows | null {
  if (!isList(value) || !value.length || !value.every(isObject)) return null;
  const names = [...new Set(value.flatMap((one) => Object.keys(one)))];
  return { names, rows: value.map((one) => names.map((name) => own(one, name))) };
}

/** Lists of values, of which the first is the heading where it alone is all words. */
function ofLists(value: Value): Rows | null {
  if (!isList(value) || !value.length || !value.every(isList)) return null;
  const [first, ...rest] = value;
  const isHeading =
    rest.length > 0 && first!.every((one) => typeof one === 'string' && one) && new Set(first).size === first!.length;
  const width = value.reduce<number>((most, row) => Math.max(most, row.length), 0);
  const names = Array.from({ length: width }, (_, i) => (isHeading && i < first!.length ? String(first![i]) : `Column ${i + 1}`));
  return { names, rows: (isHeading ? rest : value).map((row) => names.map((_, i) => row[i])) };
}

/** Columns by name: lists of one length, or objects by the same keys. */
function ofColumns(value: Value): Rows | null {
  if (!isObject(value)) return null;
  const entries = Object.entries(value);
  if (!entries.length) return null;
  if (entries.every(([, column]) => isList(column))) {
    const lists = entries.map(([, column]) => column as readonly Value[]);
    if (!lists[0]!.length || lists.some(({ length }) => length !== lists[0]!.length) || lists[0]!.some(isObject)) return null;
    return { names: entries.map(([name]) => name), rows: lists[0]!.map((_, row) => lists.map((list) => list[row])) };
  }
  if (!entries.every(([, column]) => isObject(column))) return null;
  const objects = entries.map(([, column]) => column as Readonly<Record<string, Value>>);
  const keys = Object.keys(objects[0]!);
  const isNumbered = keys.length > 0 && keys.every((key) => /^\d+$/.test(key));
  if (!isNumbered || objects.some((one) => Object.keys(one).length !== keys.length)) return null;
  return { names: entries.map(([name]) => name), rows: keys.map((key) => objects.map((one) => own(one, key))) };
}

/** Names and rows apart. */
function ofSplit(value: Value): Rows | null {
  if (!isObject(value) || !isList(value['columns']) || !isList(value['data'])) return null;
  const names = value['columns'].map((name) => (isObject(name) ? String(name['name'] ?? '') : String(name)));
  const rows = value['data'];
  return rows.every(isList) ? { names, rows: rows.map((row) => names.map((_, i) => row[i])) } : ofRecords(rows);
}

/** The ways in which programs write a table, the surest first. */
const WAYS = [ofSplit, ofRecords, ofLists, ofColumns];
const rowsIn = (value: Value): Rows | null => {
  for (const way of WAYS) {
    const found = way(value);
    if (found) return found;
  }
  return null;
};

/** What stands in a cell: numbers, words, yes and no; what holds more is kept as it is written. */
function columnOf(heading: string, cells: readonly Value[], nested: () => void): GridColumn {
  const filled = cells.filter((cell) => cell !== null && cell !== undefined && cell !== '');
  const all = (kind: string): boolean => filled.length > 0 && filled.every((cell) => typeof cell === kind);
  const plain = { ...plainColumn, ...fromHeading(heading) };
  if (all('number'))
    return {
      ...plain,
      type: 'number',
      numbers: Float64Array.from(cells, (cell) => (typeof cell === 'number' ? cell : NaN)),
      words: null,
    };
  if (all('boolean'))
    return {
      ...plain,
      type: 'yes or no',
      numbers: Float64Array.from(cells, (cell) => (typeof cell === 'boolean' ? Number(cell) : NaN)),
      words: null,
    };
  if (filled.some((cell) => typeof cell === 'object')) nested();
  const words = cells.map((cell) =>
    cell === null || cell === undefined ? '' : typeof cell === 'object' ? JSON.stringify(cell) : String(cell),
  );
  const isDates =
    all('string') &&
    filled.every((cell) => /^\d{4}-\d{2}-\d{2}/.test(String(cell)) && dateFrom(String(cell), 'year first') !== '');
  if (isDates)
    return {
      ...plain,
      type: 'date',
      numbers: Float64Array.from(words, (word) => (word ? daysOf(dateFrom(word, 'year first')) : NaN)),
      words: null,
    };
  return { ...plain, type: 'text', numbers: null, words };
}

/** A table of somebody else, and what of it stays as it is written. */
interface ForeignTable {
  readonly name: string;
  readonly grid: Grid;
}

/**
 * Tables in data that no program of ours wrote: records, lists, columns, names and rows apart; on its own, or each by its name.
 * @param value what was parsed; of lines of records, a list of them
 * @returns none where there is no table; how many columns hold more than a cell can
 */
export function foreignTables(value: Value): { tables: ForeignTable[]; nested: number } {
  let nested = 0;
  const made: ForeignTable[] = [];
  const take = (name: string, { names, rows }: Rows): void => {
    if (rows.length > MOST_ROWS)
      throw new Failure('too-many-rows', `This has ${rows.length} rows; at most ${MOST_ROWS} can be kept. Split it.`);
    if (names.length > MOST_COLUMNS)
      throw new Failure('too-many-columns', `This has ${names.length} columns; at most ${MOST_COLUMNS} can be kept.`);
    const columns = names.map((heading, i) =>
      columnOf(
        heading || `Column ${i + 1}`,
        rows.map((row) => row[i]),
        () => nested++,
      ),
    );
    made.push({ name, grid: { columns, count: rows.length, key: -1, summaries: [], decimal: '.' } });
  };
  const whole = rowsIn(value);
  if (whole) take('', whole);
  else if (isObject(value))
    for (const [name, part] of Object.entries(value)) {
      const found = isList(part) && part.length && (part.every(isObject) || part.every(isList)) ? rowsIn(part) : null;
      if (found) take(name, found);
    }
  return { tables: made, nested };
}

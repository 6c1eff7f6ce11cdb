import { Tally } from '../../contracts/tally';
import { type Grid, type GridColumn, type GridSummary, plainColumn } from '../../content/grid/grid';
import { fromHeading } from '../../evaluate/tables/heading';
import { Failure } from '../../base/failure/failure';
import { unpackEntries } from '../../document/native/zip';
import { namesOf } from '../../evaluate/tables/names';
import type { NotUnderstood } from '../../contracts/not-understood';
import { relationsOf } from '../relations';
import { plainConditions } from './conditional';
import { type Format, readStyles, reportOdd } from './formats';
import { type Seen, fromWorkbook } from './formula-read';
import { attributeOf, walkXml } from '../../base/bytes/walk-xml';
import { OLD_DRAWING, type RawCell, type RawSheet, readSheet, readStrings } from './read-sheet';
import { reportWorkbook } from './known';
import { SUMMARY_END, SUMMARY_HEADS } from './sheet-names';
import { EPOCH } from './epoch';
import { MARK_ENTRY } from './write';

interface ReadWorkbook {
  readonly tables: readonly { readonly name: string; readonly grid: Grid }[];
  readonly mark: string | null;
  readonly notUnderstood: readonly NotUnderstood[];
}

interface Sheet extends RawSheet {
  readonly name: string;
}

function markOf(entries: ReadonlyMap<string, Uint8Array>): string | null {
  const bytes = entries.get(MARK_ENTRY);
  if (!bytes) return null;
  let [text, isOurs] = ['', false];
  walkXml(bytes, MARK_ENTRY, {
    open: (tag, attributes) => {
      if (tag === 'property') isOurs = attributeOf(attributes, 'name') === 'Origin';
    },
    text: (piece) => {
      if (isOurs) text += piece;
    },
  });
  return text || null;
}

/** The row that is the heading: the first of which all cells are words, and as many as most rows have. */
function headingRow({ rows }: RawSheet): number {
  let widest = 0;
  for (const row of rows) if (row) widest = Math.max(widest, row.filter(Boolean).length);
  const passes = (row: readonly (RawCell | undefined)[] | undefined): boolean => {
    const cells = (row ?? []).filter((cell): cell is RawCell => cell !== undefined);
    return (
      cells.length > 0 &&
      cells.length >= 0.6 * widest &&
      cells.every(({ value, formula }) => typeof value === 'string' && formula === null)
    );
  };
  for (let at = 0; at < Math.min(rows.length, 50); at++) if (passes(rows[at])) return at;
  return -1;
}

/** Seconds of a day. */
const DAY = 86_400;
const two = (value: number): string => String(value).padStart(2, '0');
/** A share of a day as hours, minutes and seconds. */
function timeOfDay(share: number): string {
  const seconds = Math.round(share * DAY) % DAY;
  return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
}

/** Times of day are words, and stretches of time hours: neither is a day. */
function withoutTimes(
  cells: readonly (RawCell | undefined)[],
  tally: Tally,
): { cells: readonly (RawCell | undefined)[]; unit: string } {
  const times = cells.filter((cell) => typeof cell?.value === 'number' && cell.format?.time);
  if (!times.length) return { cells, unit: '' };
  const isLong = times.some(
    (cell) => cell!.format!.time === 'long' || (cell!.value as number) >= 1 || (cell!.value as number) < 0,
  );
  tally.addUnseen(isLong ? 'column of stretches of time, in hours' : 'column of times of day, as words');
  const made = cells.map((cell) => {
    if (typeof cell?.value !== 'number' || !cell.format?.time) return cell;
    const hours = Math.round(cell.value * DAY) / 3600;
    return { ...cell, format: null, value: isLong ? hours : timeOfDay(cell.value) };
  });
  return { cells: made, unit: isLong ? 'h' : '' };
}

const typeNames = (cells: readonly (RawCell | undefined)[]): GridColumn['type'] => {
  let [numbers, dates, words, booleans] = [0, 0, 0, 0];
  for (const cell of cells) {
    if (!cell || cell.value === null || cell.error) continue;
    if (typeof cell.value === 'number') {
      if (cell.format?.date) dates++;
      else numbers++;
    } else if (typeof cell.value === 'boolean') booleans++;
    else words++;
  }
  const most = Math.max(numbers, dates, words, booleans);
  return most === 0 ? 'text' : most === numbers ? 'number' : most === dates ? 'date' : most === booleans ? 'yes or no' : 'text';
};

/** Whether a time of day stands behind a date that is shown without it; less than a second is what rounding leaves. */
const hidesTime = (format: Format | null, value: number): boolean =>
  format?.date === true && !format.clock && Math.abs(value - Math.round(value)) > 1 / 86_400;

/** Digits that all numbers of a column are shown with; null where they are shown differently. */
function digitsOf(cells: readonly (RawCell | undefined)[]): number | null {
  const all = new Set(cells.filter((cell) => typeof cell?.value === 'number').map((cell) => cell!.format?.decimals ?? null));
  return all.size === 1 ? [...all][0]! : null;
}

interface Within {
  readonly sheet: string;
  readonly first: number;
  readonly last: number;
  readonly names: readonly string[];
  readonly summaries: ReadonlyMap<string, readonly string[]>;
}

/** What cells are, seen from a row of a table. */
const seenFrom = (
  { sheet, first, last, names, summaries }: Within,
  row: number,
  off: readonly [number, number],
  from: string,
): Seen => ({
  cell: (other, column, at, fixed) => {
    if ((other ?? from) !== sheet) {
      const end = (other ?? from).slice(0, -SUMMARY_END.length);
      return column === 1 && (other ?? from).endsWith(SUMMARY_END) && end === sheet
        ? (summaries.get(sheet)?.[at - 1] ?? null)
        : null;
    }
    return (fixed ? at : at + off[0]) === row ? (names[column + off[1]] ?? null) : null;
  },
  range: (other, [column, top], [to, bottom]) =>
    (other ?? from) === sheet && column === to && top === first && bottom === last ? (names[column] ?? null) : null,
});

/** A formula with its own row in the place of that row's number: equal ones say the same. */
const inOwnRow = (formula: string, row: number, [down, right]: readonly [number, number]): string =>
  `${right} ${formula.replace(/(\$?[A-Za-z]{1,3})(\$?)(\d+)/g, (all, column: string, fixed: string, at: string) => (Number(at) - 1 + (fixed ? 0 : down) === row ? `${column}${fixed}#` : all))}`;

/** The formula of a column: that of most of its cells; and those of its cells that say something else. */
function columnFormula(cells: readonly (RawCell | undefined)[], within: Within): Pick<GridColumn, 'formula' | 'loose' | 'bare'> {
  const counts = new Map<string, number>();
  let filled = 0;
  // Formulas that say the same of their own row are read once.
  const known = new Map<string, string | null>();
  const own = cells.map((cell, i) => {
    if (!cell) return '';
    filled++;
    if (cell.formula === null) return '';
    const row = within.first + i;
    const key = inOwnRow(cell.formula, row, cell.off);
    let read = known.get(key);
    if (read === undefined) known.set(key, (read = fromWorkbook(cell.formula, seenFrom(within, row, cell.off, within.sheet))));
    const text = read ?? `=${cell.formula}`;
    counts.set(text, (counts.get(text) ?? 0) + 1);
    return text;
  });
  const [most, often] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? ['', 0];
  const formula = often > filled / 2 ? most : null;
  const loose: Record<number, string> = {};
  own.forEach((text, i) => {
    if (cells[i] && text !== (formula ?? '')) loose[i] = text;
  });
  const bare = new Set(formula === null ? [] : cells.flatMap((cell, row) => (cell ? [] : [row])));
  return { formula, loose, bare };
}

function columnOf(
  heading: string,
  raw: readonly (RawCell | undefined)[],
  within: Within,
  epoch: number,
  tally: Tally,
): GridColumn {
  const { cells, unit } = withoutTimes(raw, tally);
  const type = typeNames(cells);
  const numbers = new Float64Array(cells.length).fill(NaN);
  let words: string[] | null = type === 'text' ? new Array<string>(cells.length).fill('') : null;
  const word = (row: number, text: string) => ((words ??= new Array<string>(cells.length).fill(''))[row] = text);
  const odd = new Set<Format>();
  cells.forEach((cell, row) => {
    if (!cell || cell.value === null) return;
    const { value, format } = cell;
    if (format?.veiled || (typeof value === 'number' && (format?.odd || hidesTime(format, value)))) odd.add(format!);
    if (typeof value === 'string' && format?.oddWords) odd.add(format);
    if (typeof value === 'string') word(row, value);
    else if (typeof value === 'boolean') {
      if (type === 'yes or no') numbers[row] = Number(value);
      else word(row, value ? 'yes' : 'no');
    } else if (type === 'date') {
      if (format?.date) numbers[row] = Math.round((value - epoch) * 86_400) / 86_400;
      else word(row, String(value));
    } else if (type === 'number' && !format?.date) numbers[row] = value;
    else word(row, String(value));
  });
  for (const format of odd) reportOdd(format, tally);
  return {
    ...plainColumn,
    ...fromHeading(heading),
    ...(unit && !fromHeading(heading).unit ? { unit } : {}),
    type,
    decimals: type === 'number' ? digitsOf(cells) : null,
    ...columnFormula(cells, within),
    numbers: type === 'text' ? null : numbers,
    words,
  };
}

const isSummary = ({ name, rows }: Sheet, names: ReadonlySet<string>): boolean =>
  name.endsWith(SUMMARY_END) &&
  names.has(name.slice(0, -SUMMARY_END.length)) &&
  SUMMARY_HEADS.every((head, i) => rows[0]?.[i]?.value === head);

/** The names of a sheet of summaries as formulas spell them. */
const summaryHeads = ({ rows }: Sheet): { name: string; unit: string }[] =>
  rows.slice(1).map((row) => fromHeading(String(row?.[0]?.value ?? '')));

function tableOf(sheet: Sheet, summary: Sheet | undefined, epoch: number, tally: Tally): Grid {
  const { name, rows } = sheet;
  const head = headingRow(sheet);
  if (head > 0) for (const row of rows.slice(0, head)) if (row) tally.add('row above the heading');
  const body = rows.slice(head + 1);
  let count = body.length;
  while (count && !body[count - 1]?.some(Boolean)) count--;
  const width = rows.reduce((most, row) => Math.max(most, row?.length ?? 0), 0);
  const headings = Array.from({ length: width }, (_, i) => {
    const text = head < 0 ? '' : String(rows[head]?.[i]?.value ?? '');
    return text || `Column ${i + 1}`;
  });
  const sums = summary ? summaryHeads(summary) : [];
  const named = namesOf(
    headings.map((heading) => fromHeading(heading).name),
    sums.map((one) => one.name),
  );
  const within: Within = {
    sheet: name,
    first: head + 1,
    last: head + count,
    names: [...named.columns.keys()],
    summaries: new Map([[name, [...named.summaries.keys()]]]),
  };
  const columns = headings.map((heading, i) =>
    columnOf(
      heading,
      Array.from({ length: count }, (_, row) => body[row]?.[i]),
      within,
      epoch,
      tally,
    ),
  );
  return { columns, count, key: -1, summaries: summary ? summariesOf(summary, sums, within) : [], decimal: '.' };
}

const summariesOf = ({ name, rows }: Sheet, heads: readonly { name: string; unit: string }[], within: Within): GridSummary[] =>
  heads.map((head, i): GridSummary => {
    const cell = rows[i + 1]?.[1];
    const seen = seenFrom(within, -1, cell?.off ?? [0, 0], name);
    return {
      ...head,
      decimals: cell?.format?.decimals ?? null,
      formula: cell && cell.formula !== null ? (fromWorkbook(cell.formula, seen) ?? `=${cell.formula}`) : null,
      value: typeof cell?.value === 'number' ? cell.value : NaN,
      source: '',
    };
  });

/**
 * Reads a workbook (ECMA-376-1, transitional or strict): each sheet with cells is a table. Formulas that say the same in every row
 * are that of their column.
 * @throws Failure `package-damaged`, `package-unsafe`, `package-too-large`
 */
export function readXlsx(bytes: Uint8Array): ReadWorkbook {
  const entries = unpackEntries(bytes);
  const tally = new Tally();
  const root = relationsOf(entries, '');
  const main = [...root.values()].find(({ type }) => type === 'officeDocument')?.target ?? 'xl/workbook.xml';
  const workbook = entries.get(main);
  if (!workbook) throw new Failure('package-damaged', 'There is no workbook in this package.');
  const relations = relationsOf(entries, main);
  const partOf = (type: string): [Uint8Array | undefined, string] => {
    const target = [...relations.values()].find((one) => one.type === type)?.target ?? '';
    return [entries.get(target), target];
  };
  const listed: { name: string; part: string }[] = [];
  let epoch = EPOCH;
  const open: string[] = [];
  walkXml(workbook, main, {
    close: () => void open.pop(),
    open: (tag, attributes) => {
      reportWorkbook(tag, attributes, open, tally);
      open.push(tag);
      if (tag === 'workbookPr' && /^(1|true)$/.test(attributeOf(attributes, 'date1904') ?? '')) epoch = EPOCH - 1462;
      if (tag !== 'sheet') return;
      const state = attributeOf(attributes, 'state');
      if (state && state !== 'visible') tally.add('hidden sheet');
      listed.push({
        name: attributeOf(attributes, 'name') ?? '',
        part: relations.get(attributeOf(attributes, 'id') ?? '')?.target ?? '',
      });
    },
  });
  const strings = readStrings(...partOf('sharedStrings'), tally);
  const looks = { formats: readStyles(...partOf('styles')), conditions: plainConditions(...partOf('styles')) };
  const sheets = listed.flatMap(({ name, part }): Sheet[] => {
    const own = entries.get(part);
    if (!own) throw new Failure('package-damaged', `The sheet “${name}” is not in the package.`);
    // A sheet of a chart has no cells.
    if (/chartsheets?\//.test(part)) {
      tally.add('sheet of a chart');
      return [];
    }
    return [{ name, ...readSheet(own, part, strings, looks, tally) }];
  });
  const has = (pattern: RegExp): boolean => [...entries.keys()].some((name) => pattern.test(name));
  if (has(/vbaProject\.bin$/i)) tally.add('macro');
  if (has(/\/comments?[^/]*\.xml$/i)) {
    tally.addUnseen('comments');
    tally.forget(OLD_DRAWING);
  }
  const names = new Set(sheets.map(({ name }) => name));
  const sums = new Map(
    sheets.filter((sheet) => isSummary(sheet, names)).map((sheet) => [sheet.name.slice(0, -SUMMARY_END.length), sheet]),
  );
  const tables = sheets
    .filter((sheet) => !isSummary(sheet, names) && sheet.rows.some((row) => row?.some(Boolean)))
    .map((sheet) => ({ name: sheet.name, grid: tableOf(sheet, sums.get(sheet.name), epoch, tally) }));
  return { tables, mark: markOf(entries), notUnderstood: tally.list() };
}

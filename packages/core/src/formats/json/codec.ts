import * as z from 'zod';
import { sealText } from '../../contracts/seal';
import { type Known, unknownMembers } from '../../base/bytes/unknown-members';
import { saidTwice } from '../../base/bytes/said-twice';
import { Tally } from '../../contracts/tally';
import type { Leaf } from '../../contracts/leaf';
import { type Grid, type GridColumn, plainColumn } from '../../content/grid/grid';
import { Failure } from '../../base/failure/failure';
import { COLUMN_TYPES, MOST_COLUMNS, MOST_ROWS } from '../../document/tables/schema';
import { dateOf, daysOf } from '../../evaluate/tables/dates';
import { plainFormula } from '../../evaluate/tables/formula';
import { PLAIN, numberFrom } from '../../evaluate/tables/typed';
import { type Codec, onlyFile } from '../../contracts/codec';
import type { NotUnderstood } from '../../contracts/not-understood';
import { foreignTables } from './records';
import { gridsToMaster } from '../tables/bring-in';
import { jsonDeclaration } from './declare';

const Cell = z.union([z.number(), z.string(), z.boolean(), z.null()]);
type Cell = number | string | boolean | null;
const Said = z.object({
  name: z.string().max(200),
  unit: z.string().max(60).optional(),
  decimals: z.number().int().min(0).max(15).optional(),
  formula: z.string().max(2000).optional(),
});
const Document = z.object({
  origin: z.string().optional(),
  tables: z.array(
    z.object({
      name: z.string().max(200).default(''),
      key: z.string().optional(),
      columns: z.array(Said.extend({ type: z.enum(COLUMN_TYPES) })).max(MOST_COLUMNS),
      rows: z.array(z.union([z.array(Cell), z.record(z.string(), Cell)])).max(MOST_ROWS),
      summaries: z.array(Said.extend({ value: z.number().nullable() })).default([]),
    }),
  ),
});

const cellOf = ({ type, numbers, words }: GridColumn, row: number): Cell => {
  const word = words?.[row];
  if (word) return word;
  const value = numbers?.[row] ?? NaN;
  if (Number.isNaN(value)) return null;
  return type === 'date' ? dateOf(value) : type === 'yes or no' ? value === 1 : value;
};
const said = ({ name, unit, decimals, formula }: Pick<GridColumn, 'name' | 'unit' | 'decimals' | 'formula'>) => ({
  name,
  ...(unit ? { unit } : {}),
  ...(decimals === null ? {} : { decimals }),
  ...(formula === null ? {} : { formula }),
});

/** One row a line, so that two files can be held against each other by eye. */
function tableText({ label, body }: Leaf, byName: boolean): string {
  const { columns, count, key, summaries } = body as Grid;
  const rows = Array.from({ length: count }, (_, row) =>
    JSON.stringify(
      byName
        ? Object.fromEntries(columns.map((column) => [column.name, cellOf(column, row)]))
        : columns.map((column) => cellOf(column, row)),
    ),
  );
  const head = {
    ...(label ? { name: label } : {}),
    ...(key >= 0 ? { key: columns[key]!.name } : {}),
    columns: columns.map((column) => ({ ...said(column), type: column.type })),
  };
  const sums = summaries.map((one) => ({ ...said(one), value: Number.isNaN(one.value) ? null : one.value }));
  return `${JSON.stringify(head).slice(0, -1)},\n"rows":[\n${rows.join(',\n')}\n],\n"summaries":${JSON.stringify(sums)}}`;
}

const inOneWay = (formula: string | undefined): string | null => (formula === undefined ? null : plainFormula(formula));

function columnOf(
  { type, name, unit = '', decimals, formula }: z.infer<typeof Document>['tables'][number]['columns'][number],
  cells: readonly Cell[],
): GridColumn {
  const numbers = new Float64Array(cells.length).fill(NaN);
  const plain = type === 'text' || type === 'category';
  let words: string[] | null = plain ? new Array<string>(cells.length).fill('') : null;
  cells.forEach((cell, row) => {
    if (cell === null) return;
    const value =
      type === 'number' && typeof cell === 'number'
        ? cell
        : type === 'date' && typeof cell === 'string'
          ? daysOf(cell)
          : type === 'yes or no' && typeof cell === 'boolean'
            ? Number(cell)
            : NaN;
    if (!plain && !Number.isNaN(value)) numbers[row] = value;
    else (words ??= new Array<string>(cells.length).fill(''))[row] = String(cell);
  });
  return {
    ...plainColumn,
    name,
    unit,
    type,
    decimals: decimals ?? null,
    formula: inOneWay(formula),
    // Nothing here computes anything by itself.
    ...(formula === undefined ? {} : { bare: new Set(cells.flatMap((cell, row) => (cell === null ? [row] : []))) }),
    numbers: plain ? null : numbers,
    words,
  };
}

const SAID: Known = { name: true, unit: true, decimals: true, formula: true, type: true, value: true };
const KNOWN: Known = {
  origin: true,
  tables: [{ name: true, key: true, columns: [SAID], rows: true, summaries: [SAID] }],
};
/** Members that nobody asks for, and values in rows that stand in no column. */
function toldOf(text: string, value: unknown, { tables }: z.infer<typeof Document>): NotUnderstood[] {
  const tally = new Tally();
  for (const member of saidTwice(text)) tally.addBeyondSight(`member “${member}” that is said twice`);
  unknownMembers(value, KNOWN, (member) => tally.add(`member “${member}”`));
  for (const { columns, rows } of tables) {
    const names = new Set(columns.map(({ name }) => name));
    for (const row of rows) {
      const beyond = Array.isArray(row) ? row.length > columns.length : Object.keys(row).some((name) => !names.has(name));
      if (beyond) tally.add('row with a value that stands in no column');
    }
  }
  return tally.list();
}

const LITERAL = /"[^"\\]*(?:\\.[^"\\]*)*"|-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?/gs;
/** Numbers with more digits than are held, as the words that they stay (ISO/ECMA-404 sets no limit to them). */
const withLongNumbers = (text: string): string =>
  /\d{16}|\d[eE][+-]?\d{3}/.test(text)
    ? text.replace(LITERAL, (said) => (said.startsWith('"') || !Number.isNaN(numberFrom(said, '.')) ? said : `"${said}"`))
    : text;

function parse(bytes: Uint8Array): { document: z.infer<typeof Document>; notUnderstood: NotUnderstood[] } {
  let text: string;
  let value: unknown;
  try {
    text = withLongNumbers(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
    value = JSON.parse(text);
  } catch (error) {
    throw new Failure('json-damaged', `This is no JSON: ${error instanceof Error ? error.message : ''}.`);
  }
  const found = Document.safeParse(value);
  if (found.success) return { document: found.data, notUnderstood: toldOf(text, value, found.data) };
  const issue = found.error.issues[0]!;
  throw new Failure('json-damaged', `The data is not as it should be: ${issue.path.join('.') || 'it'} ${issue.message}.`);
}

function leavesOf({ tables }: z.infer<typeof Document>): Leaf<'grid'>[] {
  return tables.map(({ name, key, columns, rows, summaries }) => {
    const cells = columns.map((column, i) => rows.map((row) => (Array.isArray(row) ? row[i] : row[column.name]) ?? null));
    const body: Grid = {
      columns: columns.map((column, i) => columnOf(column, cells[i]!)),
      count: rows.length,
      key: columns.findIndex((column) => column.name === key),
      isStated: true,
      summaries: summaries.map(({ unit = '', decimals, formula, value, ...one }) => ({
        ...one,
        unit,
        decimals: decimals ?? null,
        formula: inOneWay(formula),
        value: value ?? NaN,
        source: '',
      })),
      decimal: '.',
    };
    return { kind: 'grid', key: '', label: name, body };
  });
}

/** What is in data that no program of ours wrote; null where it is ours, or no JSON. */
function foreignIn(bytes: Uint8Array): ReturnType<typeof foreignTables> | null {
  // Ours say so in their beginning, and are large: they are parsed once.
  if (/"tables"\s*:\s*\[/.test(new TextDecoder().decode(bytes.subarray(0, 4096)))) return null;
  let value: unknown;
  try {
    value = parsedOrLines(withLongNumbers(new TextDecoder('utf-8', { fatal: true }).decode(bytes).replace(/^\ufeff/, '')));
  } catch {
    return null;
  }
  if (typeof value === 'object' && value !== null && 'tables' in value) return null;
  try {
    return foreignTables(value);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new Failure('json-damaged', 'The data is nested too deep to be a table.');
  }
}

/** One value, or a value on each line. @throws SyntaxError */
function parsedOrLines(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    const lines = text.split(/\r?\n/).filter((line) => line.trim());
    if (lines.length < 2) throw error;
    return lines.map((line): unknown => JSON.parse(line));
  }
}

/** Tables as JSON: `{ origin, tables: [{ name, key, columns, rows, summaries }] }`. */
export const jsonCodec = {
  declaration: jsonDeclaration,
  write: ({ leaves }, options, mark) => {
    const tables = leaves.map((leaf) => tableText(leaf, options['rows'] === 'by name'));
    return onlyFile(new TextEncoder().encode(`{"origin":${JSON.stringify(mark)},\n"tables":[${tables.join(',\n')}]}\n`));
  },
  seal: sealText,
  read: (files) => {
    // Another program's table may be a copy of ours that it wrote anew.
    const foreign = foreignIn(files[0]!.bytes);
    if (foreign) {
      const leaves = foreign.tables.map(({ name, grid }): Leaf<'grid'> => ({ kind: 'grid', key: '', label: name, body: grid }));
      return { leaves, mark: null, notUnderstood: [] };
    }
    const { document, notUnderstood } = parse(files[0]!.bytes);
    return { leaves: leavesOf(document), mark: document.origin ?? null, notUnderstood };
  },
  bringIn: (bytes, name) => {
    const foreign = foreignIn(bytes);
    if (foreign) {
      const kind = 'column whose cells hold more than one value, kept as they are written';
      const told = foreign.nested ? [{ kind, count: foreign.nested, shows: true }] : [];
      return { master: gridsToMaster(foreign.tables, bytes, name, PLAIN), mark: null, notUnderstood: told };
    }
    const { document, notUnderstood } = parse(bytes);
    const grids = leavesOf(document).map(({ label, body }) => ({ name: label, grid: body }));
    return { master: gridsToMaster(grids, bytes, name, PLAIN), mark: document.origin ?? null, notUnderstood };
  },
} satisfies Codec;

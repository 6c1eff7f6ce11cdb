import { Failure } from '../base/failure/failure';
import type { PartList, VariantRow } from '../contracts/schemas';
import { type ScopedParts, missingIn } from '../contracts/scope';
import { type Parameter, scopeOf } from '../document/parameters';
import type { Master, Table } from '../document/schema';
import type { Cell } from '../document/tables/schema';
import { rowInWords } from '../document/tables/words';
import { cellInWords, computedTable } from '../evaluate/tables/compute';
import type { Recipe } from './recipe';

/** A column of a variant table, and the parameter that its cells give values to. */
export interface VariantColumn {
  /** Which of the table's columns. */
  readonly at: number;
  readonly parameter: Parameter;
}

/** How names are compared: `Hole spacing` stands for `hole_spacing`. */
const plain = (name: string): string =>
  name
    .trim()
    .toLowerCase()
    .replace(/[\s_-]+/g, '_');

/** The columns of a table that are named as parameters of a master are; none where it is no variant table. */
export function variantColumns(
  { parameters = [] }: Pick<Master, 'parameters'>,
  { columns }: Pick<Table, 'columns'>,
): VariantColumn[] {
  const byName = new Map(parameters.map((parameter) => [plain(parameter.name), parameter]));
  return columns.flatMap(({ name }, at) => {
    const parameter = byName.get(plain(name));
    return parameter ? [{ at, parameter }] : [];
  });
}

/** Units that a cell can be read with as a formula reads it. */
const UNITS = new Set(['mm', 'cm', 'm', 'in', 'pt', 'deg', '°']);

/** What a cell says as the value of a parameter. @param text how it is shown */
function valueOf({ measure }: Parameter, cell: Cell, unit: string | undefined, text: string): Parameter['value'] {
  if (measure === 'text' || measure === 'colour') return text;
  if (typeof cell === 'number') return unit !== undefined && UNITS.has(unit) ? `${cell} ${unit}` : cell;
  return String(cell).trim();
}

/**
 * What one row of a table gives to parameters, by their names.
 * @throws Failure `variant-invalid` where no column is a parameter, two are the same one, or a cell is empty
 */
export function variantValues(
  master: Pick<Master, 'parameters'>,
  table: Table,
  at: number,
): Readonly<Record<string, Parameter['value']>> {
  const columns = variantColumns(master, table);
  if (!columns.length) throw new Failure('variant-invalid', noColumns(master, table));
  const values: Record<string, Parameter['value']> = {};
  const row = table.rows[at]!;
  const computed = columns.some((one) => table.columns[one.at]!.formula !== undefined) ? computedTable(table) : null;
  for (const { at: column, parameter } of columns) {
    const { id, name, unit, formula, decimals } = table.columns[column]!;
    if (Object.hasOwn(values, parameter.name))
      throw new Failure(
        'variant-invalid',
        `Two columns of ${table.name || 'the table'} are the parameter “${parameter.name}”. Take one out.`,
      );
    const found = computed?.columns[column];
    const number = found?.numbers[at];
    const text = found ? cellInWords(found, at) : '';
    const cell = formula === undefined ? row.cells[id] : text === '' ? undefined : found!.words ? text : number;
    if (cell === undefined || cell === '')
      throw new Failure('variant-invalid', `${name} is empty. Every variant needs a value there.`);
    const shown =
      formula !== undefined ? text : typeof cell === 'number' && decimals !== undefined ? cell.toFixed(decimals) : String(cell);
    values[parameter.name] = valueOf(parameter, cell, unit, shown);
  }
  return values;
}

const noColumns = (
  { parameters = [] }: Pick<Master, 'parameters'>,
  { name, columns }: Pick<Table, 'name' | 'columns'>,
): string => {
  const heads = columns
    .slice(0, 12)
    .map((one) => `“${one.name}”`)
    .join(', ');
  const known = parameters.length
    ? `Its parameters are: ${parameters.map((one) => one.name).join(', ')}.`
    : 'The master has no parameters yet.';
  return `No column of ${name || 'the table'} is named as a parameter of this master: ${heads}. ${known}`;
};

/** The place of a row among those of its table; undefined where it is not there any more. */
function placeOf(
  master: Pick<Master, 'tables'>,
  { table, row }: Exclude<VariantRow, { values: unknown }>,
): { table: Table; at: number } | undefined {
  const found = master.tables?.find(({ id }) => id === table);
  const at = found?.rows.findIndex(({ id }) => id === row) ?? -1;
  return at < 0 ? undefined : { table: found!, at };
}

const UNKNOWN = 'The row that this variant was made by is not there any more.';

/** The parameters of a master as a row has them; the very same where there is no row. @throws as `variantOf` */
function parametersOf(master: Pick<Master, 'tables' | 'parameters'>, row: VariantRow | null | undefined): Master['parameters'] {
  if (!row) return master.parameters;
  let values: Readonly<Record<string, Parameter['value']>>;
  if ('values' in row) values = row.values;
  else {
    const found = placeOf(master, row);
    if (!found) throw new Failure('variant-invalid', UNKNOWN);
    values = variantValues(master, found.table, found.at);
  }
  const left = new Set(Object.keys(values));
  const parameters = (master.parameters ?? []).map((one) => (left.delete(one.name) ? { ...one, value: values[one.name]! } : one));
  const [unknown] = left;
  if (unknown === undefined) return parameters;
  throw new Failure(
    'variant-invalid',
    `There is no parameter “${unknown}” in this master any more, which this variant gives a value to.`,
  );
}

/**
 * A master with the values that a row gives to its parameters; the very same where there is no row.
 * @throws Failure `variant-invalid` where the row or a parameter is not there any more, or a cell is empty
 */
export function variantOf(master: Master, row: VariantRow | null | undefined): Master {
  return row ? { ...master, parameters: parametersOf(master, row) } : master;
}

/** What people call a variant: what the key of its row says, else its first value. */
export function variantInWords(master: Pick<Master, 'tables' | 'parameters'>, row: VariantRow): string {
  if ('values' in row) return String(Object.values(row.values)[0] ?? '');
  const found = placeOf(master, row);
  if (!found) return '';
  const { table, at } = found;
  if (table.key !== undefined) return rowInWords(table, at);
  const first = variantColumns(master, table)[0];
  const cell = first && table.rows[at]!.cells[table.columns[first.at]!.id];
  return cell === undefined ? rowInWords(table, at) : String(cell);
}

/** Something that a copy is made from and that a master has not got: what it is, and its name, or all that is to be said. */
export interface Missing {
  readonly word: string;
  readonly name: string;
  /** The list that it is a part of, where it is one. */
  readonly list?: PartList;
  /** Why there can be no copy, where there is more to say. */
  readonly message?: string;
}

/** What a recipe names that a master has not got: parts of its scope, its row, or the values of that. */
export function missingOf(
  master: ScopedParts & Pick<Master, 'tables' | 'parameters'>,
  { scope, row }: Pick<Recipe, 'scope' | 'row'>,
): Missing[] {
  const missing: Missing[] = missingIn(master, scope);
  if (row && 'row' in row && !placeOf(master, row)) return [...missing, { word: 'row', name: row.row }];
  try {
    parametersOf(master, row);
    return missing;
  } catch (error) {
    if (!(error instanceof Failure)) throw error;
    return [...missing, { word: 'value', name: '', message: error.message }];
  }
}

/** A row of a variant table: what its copy is called, and why there can be none. */
export interface VariantName {
  readonly row: string;
  readonly name: string;
  /** Empty where there can be one. */
  readonly problem: string;
}

/** Why a value can't be what its parameter is; empty where all can. */
function whatIsWrong({ parameters = [], unit }: Master, values: Readonly<Record<string, Parameter['value']>>): string {
  const given = parameters.map((one) => (Object.hasOwn(values, one.name) ? { ...one, value: values[one.name]! } : one));
  const [problem] = scopeOf(given, unit).problems;
  const wrong = problem && given.find(({ id }) => id === problem.node);
  return wrong ? `${wrong.name} “${wrong.value}”: ${problem.message}` : '';
}

/** Most rows that one go makes copies of. */
export const MOST_VARIANTS = 5_000;

/**
 * What the rows of a table would be copies of, in their order. Rows of the same name get their number, those that say the same
 * as one before are told of.
 * @param serial the number of the first row, with as many digits as all have; empty for none. A row has its own, whatever becomes
 *   of those before it
 * @throws Failure `variant-invalid` where the number is none, no column is named as a parameter is, or there are too many rows
 */
export function variantsOf(master: Master, table: Table, serial = ''): VariantName[] {
  if (serial && !/^\d{1,9}$/.test(serial))
    throw new Failure('variant-invalid', `“${serial}” is no number to count from: up to nine digits are, such as 001.`);
  if (!variantColumns(master, table).length) throw new Failure('variant-invalid', noColumns(master, table));
  if (table.rows.length > MOST_VARIANTS)
    throw new Failure(
      'variant-invalid',
      `${table.name} has ${table.rows.length} rows; at most ${MOST_VARIANTS} become copies in one go. Take some out.`,
    );
  const digits = String(table.rows.length).length;
  const names = table.rows.map(({ id }) => variantInWords(master, { table: table.id, row: id }));
  const count = new Map<string, number>();
  for (const name of names) count.set(name, (count.get(name) ?? 0) + 1);
  const seen = new Map<string, number>();
  return table.rows.map(({ id }, at): VariantName => {
    const number = serial && String(Number(serial) + at).padStart(serial.length, '0');
    // One that is numbered anyway needs no other number to be told apart.
    const own = count.get(names[at]!) === 1 || number ? names[at]! : `${names[at]!} ${String(at + 1).padStart(digits, '0')}`;
    const name = [number, own].filter(Boolean).join(' ');
    try {
      const values = variantValues(master, table, at);
      const key = JSON.stringify(values);
      const twin = seen.get(key);
      if (twin !== undefined) return { row: id, name, problem: `It says the same as row ${twin}.` };
      seen.set(key, at + 1);
      return { row: id, name, problem: whatIsWrong(master, values) };
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      return { row: id, name, problem: error.message };
    }
  });
}

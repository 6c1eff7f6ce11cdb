import type { Cell, Column, Row, Summary, Table } from '../../document/tables/schema';
import { asFailure } from '../../base/failure/failure';
import { AGGREGATES } from './aggregates';
import { dateOf, daysOf } from './dates';
import { type Formula, type Taken, readFormula } from './formula';
import { type Names, namesIn } from './names';
import { numberInWords } from './values';
import { type Compared, WHERE_FUNCTIONS, whereFunction } from './where';

/** The values of one column, row by row. */
export interface ColumnValues {
  readonly column: Column;
  /** Of numbers, dates (days since 1970-01-01), yes and no (1 and 0); NaN where a cell is empty or holds something else. */
  readonly numbers: Float64Array;
  /** Of words; what stands in a cell that should hold a number and does not. Null for a column without any. */
  readonly words: readonly string[] | null;
  /** What is wrong in single rows. */
  readonly problems: ReadonlyMap<number, string>;
  /** What is wrong with the whole column: its formula can't be computed. */
  readonly problem: string | null;
}

export interface SummaryValue {
  readonly summary: Summary;
  readonly value: number | null;
  readonly problem: string | null;
}

/** A table with everything in it computed. */
export interface Computed {
  readonly table: Table;
  readonly names: Names;
  readonly columns: readonly ColumnValues[];
  readonly summaries: readonly SummaryValue[];
}

const NONE: ReadonlyMap<number, string> = new Map();
const isWords = ({ type }: Column): boolean => type === 'text' || type === 'category';

/** A cell as a number, by the kind of its column; NaN where it is none. */
function numberOf(cell: Cell | undefined, { type }: Column): number {
  if (cell === undefined) return NaN;
  if (type === 'number') return typeof cell === 'number' ? cell : NaN;
  if (type === 'yes or no') return typeof cell === 'boolean' ? Number(cell) : NaN;
  return type === 'date' && typeof cell === 'string' ? daysOf(cell) : NaN;
}

/** Which rows are others than before; null where all have to be looked at. */
function changedRows(table: Table, before: Computed | undefined): number[] | null {
  if (!before || before.table.columns !== table.columns || before.table.rows.length !== table.rows.length) return null;
  const [old, now] = [before.table.rows, table.rows];
  const changed: number[] = [];
  if (old !== now) for (let i = 0; i < now.length; i++) if (old[i] !== now[i]) changed.push(i);
  return changed;
}

function heldValues(
  column: Column,
  rows: readonly Row[],
  then: readonly Row[],
  before: ColumnValues | undefined,
  changed: readonly number[] | null,
): ColumnValues {
  // A column of which no cell changed is the same one: nothing that hangs on it is to be done again.
  const isSame = (i: number) => rows[i]!.cells[column.id] === then[i]!.cells[column.id];
  if (before && changed?.every(isSame)) return before;
  const numbers = before && changed ? before.numbers.slice() : new Float64Array(rows.length);
  let words: string[] | null =
    before && changed ? (before.words?.slice() ?? null) : isWords(column) ? new Array<string>(rows.length).fill('') : null;
  const problems = new Map(before && changed ? before.problems : NONE);
  const plain = isWords(column);
  const set = (i: number) => {
    const cell = rows[i]!.cells[column.id];
    const number = numberOf(cell, column);
    numbers[i] = number;
    problems.delete(i);
    if (plain) words![i] = cell === undefined ? '' : String(cell);
    else if (cell !== undefined && Number.isNaN(number)) {
      (words ??= new Array<string>(rows.length).fill(''))[i] = String(cell);
      problems.set(i, `“${String(cell)}” is no ${column.type === 'yes or no' ? 'yes or no' : column.type}.`);
    } else if (words) words[i] = '';
  };
  if (before && changed) for (const i of changed) set(i);
  else for (let i = 0; i < rows.length; i++) set(i);
  return { column, numbers, words, problems, problem: null };
}

const emptyColumn = (column: Column, count: number, problem: string): ColumnValues => ({
  column,
  numbers: new Float64Array(count).fill(NaN),
  words: isWords(column) ? new Array<string>(count).fill('') : null,
  problems: NONE,
  problem,
});

/** What a formula gave, as its column holds it. @throws Error with what is wrong */
function asColumn(value: unknown, { type }: Column): number | string {
  if (type === 'text' || type === 'category') {
    if (typeof value === 'number' && Number.isNaN(value)) throw new Error('This can’t be computed.');
    if (typeof value === 'number' && !Number.isFinite(value)) throw new Error('It divides by zero, or is beyond all numbers.');
    return typeof value === 'number' ? String(Number(value.toPrecision(15))) : String(value);
  }
  if (type === 'yes or no') {
    if (typeof value === 'boolean') return Number(value);
    throw new Error('It gives no yes or no.');
  }
  if (typeof value === 'boolean') throw new Error('It gives yes or no, where a number is to stand.');
  if (typeof value !== 'number') throw new Error('It gives no number.');
  if (Number.isNaN(value)) throw new Error('This can’t be computed: it has no number as its result.');
  if (!Number.isFinite(value)) throw new Error('It divides by zero, or is beyond all numbers.');
  return value;
}

interface Step {
  readonly at: number;
  readonly of: 'column' | 'summary';
  readonly formula: Formula | null;
  readonly problem: string | null;
}

/** Formulas in an order in which each comes after what it needs; those that need themselves say so. */
function inOrder(table: Table, names: Names): Step[] {
  const read = (text: string): Pick<Step, 'formula' | 'problem'> => {
    try {
      return { formula: readFormula(text, names), problem: null };
    } catch (error) {
      return { formula: null, problem: asFailure(error).message };
    }
  };
  const steps = new Map<string, Step>();
  table.columns.forEach((column, at) => {
    if (column.formula !== undefined) steps.set(column.id, { at, of: 'column', ...read(column.formula) });
  });
  table.summaries.forEach((summary, at) => {
    const step = read(summary.formula);
    const loose = step.formula?.row[0];
    const word = loose === undefined ? '' : names.of.get(table.columns[loose]!.id)!;
    steps.set(summary.id, {
      at,
      of: 'summary',
      ...(loose === undefined
        ? step
        : {
            formula: null,
            problem: `${word} is a whole column here. Say what of it: mean(${word}), max(${word}), count(${word}).`,
          }),
    });
  });
  const needs = ({ formula }: Step): string[] =>
    formula
      ? [
          ...formula.row.map((i) => table.columns[i]!.id),
          ...formula.taken.flatMap((one) => columnsOf(one).map((column) => table.columns[column]!.id)),
          ...formula.summaries.map((i) => table.summaries[i]!.id),
        ]
      : [];
  const order: Step[] = [];
  const state = new Map<string, 'open' | 'done'>();
  // Walked with a stack of its own: a thousand columns may each need the one before.
  for (const start of steps.keys()) {
    const path: { id: string; rest: string[] }[] = [];
    const open = (id: string) => {
      state.set(id, 'open');
      path.push({ id, rest: needs(steps.get(id)!) });
    };
    if (!state.has(start)) open(start);
    while (path.length) {
      const top = path.at(-1)!;
      const next = top.rest.pop();
      if (next === undefined) {
        path.pop();
        if (state.get(top.id) === 'open') order.push(steps.get(top.id)!);
        state.set(top.id, 'done');
      } else if (steps.has(next) && !state.has(next)) open(next);
      else if (state.get(next) === 'open') {
        const round = path.slice(path.findIndex(({ id }) => id === next)).map(({ id }) => id);
        const words = [...round, next].map((id) => names.of.get(id)).join(' → ');
        for (const id of round) {
          const step = { ...steps.get(id)!, formula: null, problem: `It goes in a circle: ${words}.` };
          steps.set(id, step);
          if (state.get(id) === 'open') order.push(step);
          state.set(id, 'done');
        }
      }
    }
  }
  return order;
}

/**
 * Computes a table: every formula column and every summary. After an edit only the rows that changed are computed again, where
 * nothing they share did.
 * @param before what was computed of an earlier state of the same table
 */
export function computeTable(table: Table, before?: Computed): Computed {
  if (before?.table === table) return before;
  const changed = changedRows(table, before);
  const sameSummaries = before?.table.summaries === table.summaries;
  const old = changed && sameSummaries ? before : undefined;
  const names = old?.names ?? namesIn(table);
  const { rows } = table;
  const columns = table.columns.map((column, i) =>
    column.formula === undefined
      ? heldValues(column, rows, before?.table.rows ?? rows, changed ? before!.columns[i] : undefined, changed)
      : emptyColumn(column, 0, ''),
  );
  const summaries: SummaryValue[] = table.summaries.map((summary) => ({ summary, value: null, problem: null }));
  const takenNow = new Map<string, number>();
  const compared = (at: number): Compared => {
    const { column, words, numbers } = columns[at]!;
    return words && isWords(column) ? { words } : { numbers };
  };
  const rowsWhere = ({ by, column, where }: Taken) => {
    const row = WHERE_FUNCTIONS[by]!;
    const keys = where!.map((one) => compared(one.column));
    return whereFunction(
      row,
      rows.length,
      row.hasValues ? compared(column) : null,
      keys,
      where!.map(({ test }) => test),
    );
  };
  const taken = ({ by, column, share }: Taken): number => {
    const key = `${by} ${column} ${share}`;
    let value = takenNow.get(key);
    if (value === undefined) {
      const { numbers, words, column: one } = columns[column]!;
      const counted = by === 'count' && words && isWords(one) ? Float64Array.from(words, (word) => (word ? 1 : NaN)) : numbers;
      takenNow.set(key, (value = AGGREGATES[by]!.of(counted, share)));
    }
    return value;
  };
  const shared = new Map<string, number>();
  const steps = old ? stepsOf.get(old)! : inOrder(table, names);
  for (const step of steps) {
    const { at, of, formula, problem } = step;
    if (of === 'summary') summaries[at] = { ...summaries[at]!, ...(formula ? summaryValue(formula) : { value: null, problem }) };
    else
      columns[at] = formula ? computed(table.columns[at]!, formula, at) : emptyColumn(table.columns[at]!, rows.length, problem!);
  }
  const result: Computed = { table, names, columns, summaries };
  stepsOf.set(result, steps);
  sharedOf.set(result, shared);
  return result;

  function inCommon({ taken: wholes, summaries: named }: Formula): { given: Map<string, unknown>; lacks: string | null } {
    const given = new Map<string, unknown>();
    let lacks: string | null = null;
    wholes.forEach((one, i) => {
      for (const at of columnsOf(one)) {
        const { problem, column } = columns[at]!;
        if (problem) lacks = `“${column.name}” can’t be computed.`;
      }
      given.set(`taken ${i}`, one.where ? rowsWhere(one) : taken(one));
    });
    for (const i of named) {
      const { summary, value, problem } = summaries[i]!;
      if (problem || value === null) lacks = problem ? `“${summary.name}” can’t be computed.` : `“${summary.name}” is empty.`;
      given.set(names.of.get(summary.id)!, value);
    }
    return { given, lacks };
  }

  function summaryValue(formula: Formula): Pick<SummaryValue, 'value' | 'problem'> {
    const { given, lacks } = inCommon(formula);
    if (lacks) return { value: null, problem: lacks };
    if (formula.taken.some((_, i) => Number.isNaN(given.get(`taken ${i}`)))) return { value: null, problem: null };
    try {
      return { value: asColumn(formula.evaluate(given), { type: 'number' } as Column) as number, problem: null };
    } catch (error) {
      return { value: null, problem: asFailure(error).message };
    }
  }

  function computed(column: Column, formula: Formula, at: number): ColumnValues {
    const { given, lacks } = inCommon(formula);
    const broken = formula.row.map((i) => columns[i]!).find((one) => one.problem);
    if (lacks || broken) return emptyColumn(column, rows.length, lacks ?? `“${broken!.column.name}” can’t be computed.`);
    for (const [name, value] of given) shared.set(`${at} ${name}`, value as number);
    const last = old?.columns[at];
    const equal =
      last && !last.problem && [...given].every(([name, value]) => Object.is(sharedOf.get(old)!.get(`${at} ${name}`), value));
    const again = equal ? changed! : null;
    if (again && formula.row.every((i) => columns[i] === old!.columns[i])) return last!;
    const plain = isWords(column);
    const numbers = again ? last!.numbers.slice() : new Float64Array(rows.length);
    const words = plain ? (again ? last!.words!.slice() : new Array<string>(rows.length).fill('')) : null;
    const problems = new Map(again ? last!.problems : NONE);
    const inputs = formula.row.map((i) => ({ name: names.of.get(table.columns[i]!.id)!, ...columns[i]! }));
    const one = (i: number) => {
      numbers[i] = NaN;
      if (words) words[i] = '';
      problems.delete(i);
      for (const { name, column: input, numbers: values, words: texts, problems: wrong } of inputs) {
        if (wrong.has(i)) return void problems.set(i, `“${input.name}” says something else here: ${wrong.get(i)}`);
        const value = isWords(input) ? texts![i]! : values[i]!;
        if (value === '' || Number.isNaN(value)) return;
        given.set(name, input.type === 'yes or no' ? value === 1 : value);
      }
      try {
        const found = formula.evaluate(given);
        // Words without a letter are an empty cell, as a condition gives them that has nothing to say.
        if (found === '') return;
        const value = asColumn(found, column);
        if (typeof value === 'number') numbers[i] = value;
        else words![i] = value;
      } catch (error) {
        problems.set(i, error instanceof Error ? error.message : 'This can’t be computed.');
      }
    };
    if (again) for (const i of again) one(i);
    else for (let i = 0; i < rows.length; i++) one(i);
    return { column, numbers, words, problems, problem: null };
  }
}
/** All columns that a call takes whole. */
const columnsOf = ({ column, where }: Taken): number[] => [column, ...(where ?? []).map((one) => one.column)];

const stepsOf = new WeakMap<Computed, Step[]>();
const sharedOf = new WeakMap<Computed, ReadonlyMap<string, number>>();

const computedOf = new WeakMap<Table, Computed>();
/** A table with everything computed; kept as long as the table is. */
export function computedTable(table: Table): Computed {
  let known = computedOf.get(table);
  if (!known) computedOf.set(table, (known = computeTable(table)));
  return known;
}

/** What a cell says, in plain words: as many digits as its column shows. */
export function cellInWords({ column, numbers, words, problem }: ColumnValues, row: number): string {
  if (problem) return '';
  const word = words?.[row];
  if (word) return word;
  const value = numbers[row]!;
  if (Number.isNaN(value)) return '';
  if (column.type === 'date') return dateOf(value).replace('T', ' ');
  if (column.type === 'yes or no') return value ? 'yes' : 'no';
  return numberInWords(value, column.decimals);
}

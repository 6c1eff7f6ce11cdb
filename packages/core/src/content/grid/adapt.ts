import type { CarryLines } from '../../contracts/report';
import type { Column, Summary } from '../../document/tables/schema';
import type { ColumnValues, Computed } from '../../evaluate/tables/compute';
import { plainFormula, renamed } from '../../evaluate/tables/formula';
import { namesOf } from '../../evaluate/tables/names';
import { dateOf } from '../../evaluate/tables/dates';
import { numberInWords, rounded } from '../../evaluate/tables/values';
import type { Carry } from '../../contracts/kind';
import type { GridCarries } from './features';
import type { Grid, GridColumn, GridSummary } from './grid';
import { fromHeading, inHeading } from '../../evaluate/tables/heading';

const outcomeOf = (carry: Carry) => (typeof carry === 'string' ? carry : carry.outcome);
const wordsOf = (carry: Carry, otherwise: string) => (typeof carry === 'string' ? otherwise : carry.words);

/** Words that spreadsheets compute, in the signs of any width, or take for the end of the cell before. */
export const looksLikeFormula = (word: string): boolean => /^'*[=+\-@\t\r\n＝＋－＠]/.test(word);

interface Making {
  readonly carries: GridCarries;
  readonly lines: CarryLines;
  readonly spell: (formula: string) => string;
}

/** How far rounding to the digits that are shown takes numbers off. */
function roundedColumn({ numbers, column }: ColumnValues): { numbers: Float64Array; off: number } {
  let off = 0;
  const out = numbers.map((value) => {
    const next = Number.isNaN(value) ? value : rounded(value, column.decimals!);
    off = Math.max(off, Math.abs(next - value) || 0);
    return next;
  });
  return { numbers: out, off };
}

/** What a column is called and in which unit, as a target says it. */
function headOf(name: string, unit: string | undefined, { units }: GridCarries): { name: string; unit: string } {
  if (units === 'left out') return { name, unit: '' };
  // Name and unit are one in a heading: read again they are what they were, or what looks like it.
  return units === 'kept' ? { name, unit: unit ?? '' } : fromHeading(inHeading(name, unit ?? ''));
}

function adaptColumn(values: ColumnValues, { carries, lines, spell }: Making): GridColumn {
  const { column, problem, problems } = values;
  const { id, name, decimals } = column;
  lines.take(id);
  const { words } = values;
  let { numbers } = values;
  if (carries.values !== 'kept' && carries.values !== 'left out' && column.type === 'number' && decimals !== undefined) {
    const shown = roundedColumn(values);
    if (shown.off) {
      numbers = shown.numbers;
      lines.line(
        'values',
        'approximated',
        `Digits of “${name}”`,
        `${carries.values.words}: up to ${numberInWords(Number(shown.off.toPrecision(2)), undefined)}${column.unit ? ` ${column.unit}` : ''} off`,
      )(id);
    }
  }
  if (column.unit && carries.units !== 'kept')
    lines.line('units', outcomeOf(carries.units), 'Units', wordsOf(carries.units, 'are not said'))(id);
  const { types } = carries;
  const as = typeof types === 'object' ? (types.as[column.type] ?? column.type) : column.type;
  if (types === 'left out') {
    if (column.type !== 'text') lines.line('types', 'left out', 'Kinds of columns', 'are left to whoever reads it')(id);
  } else if (as !== column.type) lines.line('types', 'restated', `Columns of ${column.type}`, `become ${as}`)(id);
  const keepsFormula = carries.formulas === 'kept' && !problem;
  if (column.formula !== undefined && !keepsFormula && !problem)
    lines.line('formulas', 'restated', 'Formulas', wordsOf(carries.formulas, 'arrive as their values'))(id);
  if (problem)
    lines.line('formulas', 'left out', 'Formulas that can’t be computed', `their columns arrive empty: ${problem}`)(id);
  else if (problems.size)
    lines.line(
      'values',
      column.formula === undefined ? 'restated' : 'left out',
      `Cells of “${name}” that ${column.formula === undefined ? 'hold something else' : 'can’t be computed'}`,
      column.formula === undefined ? 'arrive as words' : 'arrive empty',
    )(id);
  if (column.decimals !== undefined && carries['shown digits'] !== 'kept' && carries.values === 'kept')
    lines.line('shown digits', outcomeOf(carries['shown digits']), 'Digits shown', 'numbers arrive with all their digits')(id);
  const guard = carries['words like formulas'];
  if (words && guard !== 'kept' && words.some(looksLikeFormula))
    lines.line('words like formulas', outcomeOf(guard), 'Words that look like formulas', wordsOf(guard, 'are left out'))(id);
  // Times of dates to the second are all that formats hold.
  if (column.type === 'date' && numbers.some((value) => value % 1 !== 0))
    numbers = numbers.map((value) => Math.round(value * 86_400) / 86_400);
  const held = typeof types === 'object' && types.byCells ? byCells({ ...values, numbers }, types.byCells.firstDay) : null;
  if (held?.isWords && as !== 'text')
    lines.line('types', 'restated', `“${name}”, which holds mostly something else`, 'becomes text')(id);
  return {
    ...headOf(name, column.unit, carries),
    type: types === 'left out' ? 'untyped' : held?.isWords ? 'text' : as,
    meant: types === 'left out' ? column.type : null,
    decimals: carries['shown digits'] === 'left out' ? null : (decimals ?? null),
    formula: keepsFormula && column.formula !== undefined ? spell(column.formula) : null,
    loose: {},
    ...(types === 'left out'
      ? { numbers: null, words: untyped({ ...values, numbers }, carries) }
      : {
          numbers: held?.isWords
            ? null
            : words && !numbers.some((value) => !Number.isNaN(value)) && (as === 'text' || as === 'category')
              ? null
              : (held?.numbers ?? numbers),
          words: held?.words ?? words,
        }),
    source: id,
  };
}

/** A column in a format that says kinds cell by cell: dates before its first day are words, and where most cells are words, all are. */
function byCells(
  values: ColumnValues,
  firstDay: number,
): { isWords: boolean; numbers: Float64Array; words: readonly string[] | null } {
  const { column, numbers, words } = values;
  if (isWordy(column)) return { isWords: false, numbers, words };
  const isEarly = (value: number) => column.type === 'date' && value < firstDay;
  let [counted, said] = [0, 0];
  numbers.forEach((value, row) => {
    if (words?.[row] || isEarly(value)) said++;
    else if (!Number.isNaN(value)) counted++;
  });
  if (!said) return { isWords: false, numbers, words };
  const all = untyped(values, { values: 'kept' });
  if (said > counted) return { isWords: true, numbers, words: all };
  return {
    isWords: false,
    numbers: numbers.map((value) => (isEarly(value) ? NaN : value)),
    words: all.map((word, row) => (words?.[row] || isEarly(numbers[row]!) ? word : '')),
  };
}
const isWordy = ({ type }: Column): boolean => type === 'text' || type === 'category';

/** A column as plain words, which a format without kinds writes. */
function untyped({ column, numbers, words }: ColumnValues, { values }: Pick<GridCarries, 'values'>): string[] {
  const out = new Array<string>(numbers.length);
  const decimals = typeof values === 'object' ? column.decimals : undefined;
  for (let i = 0; i < out.length; i++) {
    const value = numbers[i]!;
    out[i] =
      words?.[i] ||
      (Number.isNaN(value)
        ? ''
        : column.type === 'date'
          ? dateOf(value)
          : column.type === 'yes or no'
            ? value
              ? 'yes'
              : 'no'
            : numberInWords(value, decimals));
  }
  return out;
}

/** Formulas name columns by what they are called in the copy. */
function respelled(
  before: readonly (Column | Summary)[],
  after: readonly string[],
  columns: number,
): (formula: string) => string {
  if (before.every(({ name }, i) => name === after[i])) return plainFormula;
  const [old, now] = [before.map(({ name }) => name), after].map((names) =>
    namesOf(names.slice(0, columns), names.slice(columns)),
  );
  const words = (names: ReturnType<typeof namesOf>) => [...names.columns.keys(), ...names.summaries.keys()];
  const moved = new Map(words(old!).map((word, i) => [word, words(now!)[i]!]));
  return (formula) => plainFormula(renamed(formula, moved));
}

/** What a table says in a target, and what becomes of it on the way. */
export function adaptGrid({ table, columns, summaries }: Computed, carries: GridCarries, lines: CarryLines): Grid {
  const named = [...table.columns, ...table.summaries];
  const spell = respelled(
    named,
    named.map(({ name, unit }) => headOf(name, unit, carries).name),
    table.columns.length,
  );
  const making = { carries, lines, spell };
  const keeps = carries.summaries !== 'left out';
  for (const { summary } of summaries) {
    lines.take(summary.id);
    if (!keeps) lines.line('summaries', 'left out', 'Summaries', 'there is no place for them')(summary.id);
    else if (carries.summaries !== 'kept')
      lines.line('summaries', outcomeOf(carries.summaries), 'Summaries', wordsOf(carries.summaries, ''))(summary.id);
  }
  return {
    columns: columns.map((one) => adaptColumn(one, making)),
    count: table.rows.length,
    key: table.columns.findIndex(({ id }) => id === table.key),
    summaries: keeps
      ? summaries.map(({ summary, value, problem }): GridSummary => ({
          ...headOf(summary.name, summary.unit, carries),
          decimals: carries['shown digits'] === 'left out' ? null : (summary.decimals ?? null),
          formula: carries.summaries === 'kept' && carries.formulas === 'kept' && !problem ? spell(summary.formula) : null,
          value: value ?? NaN,
          source: summary.id,
        }))
      : [],
    decimal: '.',
  };
}

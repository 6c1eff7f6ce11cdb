/** What a call takes: an expression in our grammar, or columns that a range is all of (their first is its text). */
export interface Argument {
  readonly text: string;
  readonly columns: readonly string[] | null;
}
type Say = (args: readonly Argument[]) => string | null | undefined;

/** Calls of one value each, none of them a range. */
const ofValues =
  (say: (...words: string[]) => string | null): Say =>
  (args) =>
    args.some(({ columns }) => columns) ? null : say(...args.map(({ text }) => text));

/** Values that one sign stands between; a call of one column at once is no such thing. */
const between =
  (sign: string): Say =>
  (args) =>
    args.some(({ columns, text }) => columns || !text) ? null : `(${args.map(({ text }) => `(${text})`).join(` ${sign} `)})`;
/** A function that takes values of a row, or else a whole column. */
const ofEither =
  (ofRow: Say): Say =>
  (args) =>
    args.some(({ columns }) => columns) ? undefined : ofRow(args);
const isZero = (text: string | undefined): boolean => text === undefined || text === '' || text === '0' || text === 'false';
/** Digits of a step that is a power of ten, as in 0.01. */
function digitsOf(step: string): number | null {
  const digits = -Math.round(Math.log10(Number(step)));
  return Number(step) > 0 && Number(`1e${-digits}`) === Number(step) ? digits : null;
}
const stepped = (name: string): Say =>
  ofValues((value, step) => {
    const digits = step ? digitsOf(step) : null;
    return !value || digits === null ? null : digits ? `${name}(${value}, ${digits})` : `${name}(${value})`;
  });
/** The column that a lookup names by its number, from 1. */
const nth = (columns: readonly string[] | null | undefined, number: string | undefined): string | undefined =>
  /^\d+$/.test(number ?? '') ? columns?.[Number(number) - 1] : undefined;

/** Which row a value is in, as a lookup in two steps says it. */
const MATCH = /^row of (\S+) = (.*)$/s;

/**
 * Functions of workbooks that ours say in another way (ECMA-376-1, 18.17.7): undefined where a name is none of these, null where what
 * it says can't be said.
 */
export const CALLS: Readonly<Record<string, Say>> = {
  PI: () => 'pi',
  EXP: ofValues((a) => (a === '1' ? 'e' : `exp(${a})`)),
  LN: ofValues((a) => `log(${a})`),
  LOG: ofValues((a, b) => (b ? `log(${a}, ${b})` : `log10(${a})`)),
  CEILING: stepped('ceil'),
  FLOOR: stepped('floor'),
  ROUND: ofValues((a, b) => (isZero(b) ? `round(${a})` : `round(${a}, ${b})`)),
  ROUNDDOWN: ofValues((a, b) => (isZero(b) ? `fix(${a})` : `fix(${a}, ${b})`)),
  TRUNC: ofValues((a, b) => (isZero(b) ? `fix(${a})` : `fix(${a}, ${b})`)),
  ROUNDUP: ofValues((a, b) => `(sign(${a}) * ceil(abs(${a})${isZero(b) ? '' : `, ${b}`}))`),
  POWER: ofValues((a, b) => `((${a}) ^ (${b}))`),
  IF: ofValues((a, b, c) => (a && b ? `((${a}) ? (${b}) : (${c || 'false'}))` : null)),
  IFS: ofValues((...all) => {
    if (!all.length || all.length % 2) return null;
    // Without a last one that always holds, something is missing.
    if (all.at(-2) !== 'true') return null;
    let said = `(${all.at(-1)})`;
    for (let i = all.length - 4; i >= 0; i -= 2) said = `((${all[i]}) ? (${all[i + 1]}) : ${said})`;
    return said;
  }),
  SUM: ofEither(between('+')),
  PRODUCT: between('*'),
  AVERAGE: ofEither((args) => {
    const sum = between('+')(args);
    return sum ? `(${sum} / ${args.length})` : null;
  }),
  MOD: ofValues((a, b) => `((${a}) % (${b}))`),
  AND: ofValues((...all) => `(${all.map((one) => `(${one})`).join(' and ')})`),
  OR: ofValues((...all) => `(${all.map((one) => `(${one})`).join(' or ')})`),
  NOT: ofValues((a) => `(not (${a}))`),
  CONCAT: ofValues((...all) => (all.length > 1 ? `concat(${all.join(', ')})` : null)),
  SEARCH: ofValues((...all) => `position(lower(${all[0]}), lower(${all[1]})${all[2] ? `, ${all[2]}` : ''})`),
  DAYS: ofValues((a, b) => `((${a}) - (${b}))`),
  // From Monday, which is 1; or from Sunday.
  WEEKDAY: ofValues((a, b = '1') => (b === '2' ? `weekday(${a})` : b === '1' ? `((weekday(${a}) % 7) + 1)` : null)),
  // A number with so many digits; other patterns are none of ours.
  TEXT: ofValues((a, pattern) => {
    const digits = /^"0(?:\.(0+))?"$/.exec(pattern ?? '');
    return digits ? `fixed(${a}, ${digits[1]?.length ?? 0})` : null;
  }),
  MATCH: ([wanted, key, kind]) =>
    wanted && !wanted.columns && key?.columns?.length === 1 && kind && isZero(kind.text)
      ? `row of ${key.text} = ${wanted.text}`
      : null,
  INDEX: ([values, row, column]) => {
    const found = row && MATCH.exec(row.text);
    const name = column ? nth(values?.columns, column.text) : values?.columns?.length === 1 ? values.text : undefined;
    return found && name ? `first_where(${name}, ${found[1]}, ${found[2]})` : null;
  },
  VLOOKUP: ([wanted, columns, number, isNear]) => {
    const name = nth(columns?.columns, number?.text);
    return wanted?.text && !wanted.columns && name && isNear && isZero(isNear.text)
      ? `first_where(${name}, ${columns!.text}, ${wanted.text})`
      : null;
  },
  XLOOKUP: ([wanted, key, values, other]) => {
    if (!wanted?.text || wanted.columns || key?.columns?.length !== 1 || values?.columns?.length !== 1) return null;
    const said = `first_where(${values.text}, ${key.text}, ${wanted.text})`;
    return other?.text ? `otherwise(${said}, ${other.text})` : said;
  },
};

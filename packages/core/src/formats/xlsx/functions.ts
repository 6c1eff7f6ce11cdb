/**
 * Functions of formulas and those of workbooks that compute the same (ECMA-376-1, 18.17.7): `$1` is what stands in the brackets.
 * Where two share a name in workbooks, they differ in what they take: one value of a row or a whole column.
 */
export const ROW_FUNCTIONS: Readonly<Record<string, string>> = {
  abs: 'ABS',
  sqrt: 'SQRT',
  exp: 'EXP',
  log10: 'LOG10',
  round: 'ROUND',
  floor: 'INT',
  ceil: 'CEILING',
  fix: 'TRUNC',
  sign: 'SIGN',
  sin: 'SIN',
  cos: 'COS',
  tan: 'TAN',
  asin: 'ASIN',
  acos: 'ACOS',
  atan: 'ATAN',
  mod: 'MOD',
  min: 'MIN',
  max: 'MAX',
  left: 'LEFT',
  right: 'RIGHT',
  mid: 'MID',
  length: 'LEN',
  upper: 'UPPER',
  lower: 'LOWER',
  trim: 'TRIM',
  replace: 'SUBSTITUTE',
  position: 'FIND',
  concat: 'CONCATENATE',
  number: 'VALUE',
  year: 'YEAR',
  month: 'MONTH',
  day: 'DAY',
  hour: 'HOUR',
  minute: 'MINUTE',
  date: 'DATE',
  otherwise: 'IFERROR',
};
/** Functions of the rows in which columns say what is wanted: first what is taken, then pairs. */
export const WHERE: Readonly<Record<string, string>> = {
  count_where: 'COUNTIFS',
  sum_where: 'SUMIFS',
  mean_where: 'AVERAGEIFS',
};
/** The same of one pair, with what is taken last or left out. */
export const WHERE_ONE: Readonly<Record<string, string>> = {
  COUNTIF: 'count_where',
  SUMIF: 'sum_where',
  AVERAGEIF: 'mean_where',
};
export const COLUMN_FUNCTIONS: Readonly<Record<string, string>> = {
  mean: 'AVERAGE',
  median: 'MEDIAN',
  sum: 'SUM',
  min: 'MIN',
  max: 'MAX',
  count: 'COUNTA',
  std: 'STDEV',
  variance: 'VAR',
  quantile: 'PERCENTILE',
};
/** Further names that other programs write for the same. */
export const ALSO: Readonly<Record<string, string>> = {
  'STDEV.S': 'std',
  'VAR.S': 'variance',
  'PERCENTILE.INC': 'quantile',
  COUNT: 'count',
  POWER: 'pow',
};

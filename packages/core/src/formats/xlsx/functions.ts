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
  '_XLFN.STDEV.S': 'std',
  'VAR.S': 'variance',
  '_XLFN.VAR.S': 'variance',
  'PERCENTILE.INC': 'quantile',
  '_XLFN.PERCENTILE.INC': 'quantile',
  COUNT: 'count',
  POWER: 'pow',
};

import { WORD_FUNCTIONS } from './word-functions';

type Count = readonly [least: number, most: number];

/** What may be computed of numbers row by row, and from how many values. No column is called so in formulas. */
export const NUMBER_FUNCTIONS: Readonly<Record<string, Count>> = {
  abs: [1, 1],
  sqrt: [1, 1],
  exp: [1, 1],
  log: [1, 2],
  log10: [1, 1],
  round: [1, 2],
  floor: [1, 2],
  ceil: [1, 2],
  fix: [1, 2],
  sign: [1, 1],
  sin: [1, 1],
  cos: [1, 1],
  tan: [1, 1],
  asin: [1, 1],
  acos: [1, 1],
  atan: [1, 1],
  mod: [2, 2],
  min: [2, 100],
  max: [2, 100],
};

/** From how many values functions of words and dates are computed. */
const WORDS: Readonly<Record<keyof typeof WORD_FUNCTIONS, Count>> = {
  left: [1, 2],
  right: [1, 2],
  mid: [3, 3],
  length: [1, 1],
  upper: [1, 1],
  lower: [1, 1],
  trim: [1, 1],
  replace: [3, 3],
  position: [2, 3],
  concat: [2, 100],
  fixed: [2, 2],
  number: [1, 1],
  year: [1, 1],
  month: [1, 1],
  day: [1, 1],
  weekday: [1, 1],
  hour: [1, 1],
  minute: [1, 1],
  date: [3, 3],
  otherwise: [2, 2],
};

/** All that may be computed row by row. */
export const FUNCTIONS: Readonly<Record<string, Count>> = { ...NUMBER_FUNCTIONS, ...WORDS };

/** How a function of words or dates is called inside: a column may have its name. */
export const innerName = (name: string): string | undefined => (Object.hasOwn(WORDS, name) ? `function ${name}` : undefined);

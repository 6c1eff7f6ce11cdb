import { deltaE, labOf } from './lab';

/** So different must letters look from what lies behind them (CIEDE2000): light grey on white is not, dark blue on black neither. */
const SEEN = 15;

const lab = ([red, green, blue]: readonly number[]) => labOf(Math.round(red!), Math.round(green!), Math.round(blue!));

/** Whether letters can be told from what lies behind them. @param letters red, green and blue, 0 to 255; @param ground as well */
export const isTold = (letters: readonly number[], ground: readonly number[]): boolean =>
  deltaE(lab(letters), lab(ground)) >= SEEN;

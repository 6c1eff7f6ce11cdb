/** Steps of 255 by which a colour must be told from what lies behind it. */
const SEEN = 32;

/** Whether letters can be told from what lies behind them. @param letters red, green and blue, 0 to 255; @param ground as well */
export const isTold = (letters: readonly number[], ground: readonly number[]): boolean =>
  letters.some((part, i) => Math.abs(part - ground[i]!) >= SEEN);

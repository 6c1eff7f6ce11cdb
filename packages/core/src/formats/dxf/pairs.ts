/** A group: its code and its value. */
export type Pair = readonly [code: number, value: string | number];

/** Groups as they stand in a file, a line for the code and one for the value. */
export const pairsText = (pairs: readonly Pair[]): string => pairs.map(([code, value]) => `${code}\n${value}\n`).join('');

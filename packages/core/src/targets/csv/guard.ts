/** What spreadsheets compute, or take for the end of the cell before. */
const DANGEROUS = /^'*[=+\-@\t\r]/;

/** Words so that no spreadsheet computes them: with an apostrophe more than they had. */
export const guarded = (word: string): string => (DANGEROUS.test(word) ? `'${word}` : word);

/** Takes the apostrophe off again. */
export const unguarded = (word: string): string => (word.startsWith("'") && DANGEROUS.test(word) ? word.slice(1) : word);

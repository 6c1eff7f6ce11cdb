/** Blanks in a row where all of them count, as in code: each as one that can't be left away. */
export const keptBlanks = (text: string): string => text.replace(/ {2,}/g, (blanks) => '\u00a0'.repeat(blanks.length));

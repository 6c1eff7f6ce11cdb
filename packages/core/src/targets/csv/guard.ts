import { looksLikeFormula } from '../../content/grid/adapt';

/** Words so that no spreadsheet computes them: with an apostrophe more than they had. */
export const guarded = (word: string): string => (looksLikeFormula(word) ? `'${word}` : word);

/** Takes the apostrophe off again. */
export const unguarded = (word: string): string => (word.startsWith("'") && looksLikeFormula(word) ? word.slice(1) : word);

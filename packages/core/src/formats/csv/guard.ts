import { looksLikeFormula } from '../../content/grid/adapt';
import { numberFrom } from '../../evaluate/tables/typed';

/** Words so that no spreadsheet computes them: with an apostrophe more than they had. */
export const guarded = (word: string): string => (looksLikeFormula(word) ? `'${word}` : word);

/** Whether a spreadsheet would compute a word: it has no apostrophe before it, and is no number. */
export const isOpen = (word: string, decimal: '.' | ','): boolean =>
  !word.startsWith("'") && looksLikeFormula(word) && Number.isNaN(numberFrom(word, decimal));

/** Takes the apostrophe off again. */
export const unguarded = (word: string): string => (word.startsWith("'") && looksLikeFormula(word) ? word.slice(1) : word);

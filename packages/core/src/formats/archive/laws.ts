import type { LawRecipes } from '../../contracts/laws';

/** What an archive says is the master itself: laws of single parts have nothing to hold it against. */
export const laws: LawRecipes = [];

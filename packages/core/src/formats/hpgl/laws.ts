import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [{ options: {} }, { options: { pens: 'one pen', speed: 20 } }];

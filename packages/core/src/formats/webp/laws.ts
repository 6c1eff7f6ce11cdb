import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [{ options: {} }, { options: { packing: 'without loss' } }];

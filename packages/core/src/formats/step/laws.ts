import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [{ options: {}, of: 'master' }, { options: { unit: 'inch' } }];

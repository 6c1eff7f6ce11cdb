import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [{ options: {} }, { options: { depth: '16', profile: 'Display P3', compression: 'lzw' } }];

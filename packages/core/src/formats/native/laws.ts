import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [{ options: { version: 'native 2' }, of: 'master' }, { options: { version: 'native 1' } }];

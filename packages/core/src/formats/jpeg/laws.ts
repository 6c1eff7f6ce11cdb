import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [{ options: { quality: 90 } }, { options: { quality: 70, chroma: '4:2:0', progressive: 'yes' } }];

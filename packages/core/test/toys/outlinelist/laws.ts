import type { LawRecipes } from '../../../src';

export const laws: LawRecipes = [{ options: {} }, { options: { numbered: true } }];

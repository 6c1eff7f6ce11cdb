import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [{ options: {} }, { options: { width: 400, transparency: 'laid over' } }];

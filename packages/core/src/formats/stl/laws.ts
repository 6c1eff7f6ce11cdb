import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [
  { options: {} },
  { options: { encoding: 'text', unit: 'inch', up: 'y' } },
  { options: { chord: 0.5, angle: 30 } },
];

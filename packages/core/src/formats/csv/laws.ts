import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [
  { options: {} },
  { options: { values: 'as shown', units: 'left out', delimiter: 'semicolon', decimal: 'comma', bom: true } },
  { options: { delimiter: 'tab', guard: 'as they are' } },
];

import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [
  { options: { unit: 'inch' }, of: 'master' },
  { options: {}, of: 'master', choices: [{ feature: 'colours', take: 'left out' }] },
];

import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [
  { options: { version: '2000' } },
  { options: { version: 'R12' }, of: 'master' },
  { options: { version: '2010', encoding: 'binary', fills: 'hatches' }, of: 'master' },
];

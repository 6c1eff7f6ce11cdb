import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [
  { options: {} },
  { options: { text: 'outlines' }, of: 'master' },
  { options: { sheets: 'a file each' }, of: 'master' },
  { options: {}, choices: [{ feature: 'fills', take: 'left out' }] },
];

import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [
  { options: {} },
  { options: { depth: '16' } },
  { options: { profile: 'Display P3' } },
  { options: { width: 131 } },
  { options: { width: 400, transparency: 'laid over' } },
];

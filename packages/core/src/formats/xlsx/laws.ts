import type { LawRecipes } from '../../contracts/laws';

export const laws: LawRecipes = [
  { options: {} },
  {
    options: { units: 'left out' },
    of: 'master',
    choices: [
      { feature: 'formulas', take: 'left out' },
      { feature: 'summaries', take: 'left out' },
    ],
  },
  { options: { values: 'as shown' }, of: 'master' },
];

import type { LawRecipes } from '../../contracts/laws';

/** What does not fit its machine is refused: masters made by chance hardly ever fit. `stitches.spec.ts` makes some that do. */
export const laws: LawRecipes = [];

import type { OptionValues } from './target';

/** A text that is equal for equal target and options: part of footprint keys and of the mark. */
export const recipeKey = (target: { readonly id: string }, options: OptionValues): string =>
  `${target.id}?${Object.entries(options)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, value]) => `${name}=${value}`)
    .join('&')}`;

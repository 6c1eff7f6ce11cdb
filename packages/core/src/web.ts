// What the browser needs: the document, its commands and its footprints. Readers, writers and fonts stay on the server.
export * from './failure/failure';
export * from './footprint';
export * from './geometry';
export * from './master';
export type * from './carryover/report';
export type * from './match/difference';
export { differenceInWords, formatAmount } from './match/difference';
export type { Verdict } from './match/verdict';
export type * from './projection/display-list';
export { recipeKey } from './targets/recipe-key';
export { carriesOf } from './targets/carries';

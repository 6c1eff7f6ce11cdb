export * from './target';
export * from './registry';
export { Tally } from './bytes';

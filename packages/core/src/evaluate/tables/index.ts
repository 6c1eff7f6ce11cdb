export { AGGREGATES } from './aggregates';
export * from './commands';
export * from './compute';
export * from './dates';
export { plainFormula, readFormula, renamed } from './formula';
export { FUNCTIONS } from './functions';
export { type Names, namesIn } from './names';
export * from './typed';
export * from './values';

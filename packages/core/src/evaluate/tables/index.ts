export * from './commands';
export * from './compute';
export * from './dates';
export { ALL_FUNCTIONS, plainFormula, readFormula, renamed } from './formula';
export { type Names, namesIn } from './names';
export * from './typed';
export * from './values';

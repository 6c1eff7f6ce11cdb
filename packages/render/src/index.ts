export * from './fonts';
export * from './write-whole';
export { nodeFormats } from './formats';
export { pictureSources } from './sources';
export { limits as pictureLimits } from './engines/limits';
export { chartEngine } from './engines/charts';
export { SOLID_WRITER, solidEngine } from './engines/solids';
export { pictureEngine } from './engines/pictures';
export { CLAUSES, brokenClauses } from './formats/pdf/keeping';

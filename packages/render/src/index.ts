export * from './fonts';
export * from './write-whole';
export { nodeCodecs } from './targets';
export { pictureSources } from './sources';
export { limits as pictureLimits } from './engines/limits';
export { chartEngine } from './engines/charts/engine';
export { SOLID_WRITER, solidEngine } from './engines/solids/engine';
export { pictureEngine } from './engines/pictures';

export * from './fonts';
export * from './write-whole';
export { nodeCodecs } from './targets';
export { pictureSources } from './sources';
export { limits as pictureLimits, pictureEngine } from './engines/pictures';

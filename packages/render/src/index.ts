export * from './fonts';
export * from './write-whole';
export { nodeCodecs } from './targets';
export { pictureSources } from './sources';
export { pictureEngine } from './engines/pictures';

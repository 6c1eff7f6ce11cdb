export * from './fonts';
export * from './write-whole';
export { pictureCodecs } from './targets';
export { pictureSources } from './sources';
export { pictureEngine } from './engines/pictures';

export * from './history';
export * from './package';
export { looksNative, readPackage } from './v3/read';
export { writePackage } from './v3/write';

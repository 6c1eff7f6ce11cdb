export * from './fonts';
export * from './write-whole';
export * from './picture';

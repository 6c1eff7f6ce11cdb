export * from './fonts';
export * from './write-whole';

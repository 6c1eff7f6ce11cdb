export * from './codec';
export * from './declaration';
export * from './declarations';
export * from './registry';
export * from './uses';

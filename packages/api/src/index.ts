export * from './contracts';
export * from './match-wire';
export * from './openapi';
export * from './person';
export * from './shapes';

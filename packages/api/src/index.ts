export * from './contracts';
export * from './openapi';
export * from './shapes';

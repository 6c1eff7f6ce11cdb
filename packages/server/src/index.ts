export * from './app';
export { Database, migrate } from './database/database';
export { loadDemo } from './setup/load-demo';
export * from './workshop';

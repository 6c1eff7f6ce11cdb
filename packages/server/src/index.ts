export * from './app';
export { Database } from './database/database';
export { migrate } from './database/migrate';
export * from './workshop';

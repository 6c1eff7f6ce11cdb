export * from './naming';

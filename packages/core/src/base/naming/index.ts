export * from './naming';
export * from './place';

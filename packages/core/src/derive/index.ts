export * from './derive';
export * from './recipe';

export type { Breach } from './breach';
export * from './check';
export * from './house';
export * from './learn';
export * from './names';

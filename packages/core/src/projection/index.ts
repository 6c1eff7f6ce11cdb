export * from './digest';
export * from './display-list';

export * from './carries';
export * from './recipe-key';
export * from './registry';
export * from './target';

export * from './mark';

export { Choice, Difference, Scope } from '@inkwell-twin/core/shapes';
export * from './bench';
export * from './copies';
export * from './desk';
export * from './errors';
export * from './events';
export * from './files';
export * from './masters';
export * from './match';

export { type Area, COMBINATIONS, type Combination, combine } from './combine/combine';
export { combineItems } from './combine/items';

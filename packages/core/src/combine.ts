export { type Area, COMBINATIONS, type Combination, combine } from './evaluate/combine/combine';
export { combineItems } from './evaluate/combine/items';
